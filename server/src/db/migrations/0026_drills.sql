CREATE TABLE "drill_answer" (
	"id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"kind" text NOT NULL,
	"seed" integer NOT NULL,
	"chosen" integer NOT NULL,
	"right" boolean NOT NULL
);
--> statement-breakpoint
ALTER TABLE "drill_answer" ADD CONSTRAINT "drill_answer_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "drill_answer_of" ON "drill_answer" USING btree ("by","seq");--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "drill_answer" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
