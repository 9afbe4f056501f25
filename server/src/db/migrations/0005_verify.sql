ALTER TYPE "public"."cable_work_kind" ADD VALUE 'outlet';--> statement-breakpoint
ALTER TYPE "public"."cable_work_kind" ADD VALUE 'unplug';--> statement-breakpoint
CREATE TABLE "fault_found" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"link_id" uuid NOT NULL,
	"test_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"slip" text NOT NULL,
	"kind" text NOT NULL,
	"place" text NOT NULL,
	"connector_type_id" text,
	"words" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "testing_round" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"started_at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"closed" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
ALTER TABLE "fault_found" ADD CONSTRAINT "fault_found_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "fault_found" ADD CONSTRAINT "fault_found_test_id_test_record_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."test_record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "testing_round" ADD CONSTRAINT "testing_round_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "testing_round" ADD CONSTRAINT "testing_round_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "fault_found_of_link" ON "fault_found" USING btree ("link_id");--> statement-breakpoint
CREATE INDEX "round_of_job" ON "testing_round" USING btree ("job_id");