CREATE TABLE "told_repeat" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "tool" text;--> statement-breakpoint
ALTER TABLE "told_repeat" ADD CONSTRAINT "told_repeat_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;