CREATE TABLE "trace_record" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"end" "link_side" NOT NULL,
	"pair" text,
	"name" text NOT NULL,
	"trace" jsonb NOT NULL,
	"told" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "trace_record" ADD CONSTRAINT "trace_record_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trace_record" ADD CONSTRAINT "trace_record_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "trace_of_link" ON "trace_record" USING btree ("link_id");