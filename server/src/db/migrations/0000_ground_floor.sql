CREATE TYPE "public"."attempt_outcome" AS ENUM('good', 'spoiled');--> statement-breakpoint
CREATE TYPE "public"."cable_work_kind" AS ENUM('mended', 'replaced');--> statement-breakpoint
CREATE TYPE "public"."crew_role" AS ENUM('lead', 'technician', 'viewer');--> statement-breakpoint
CREATE TYPE "public"."link_side" AS ENUM('near', 'far');--> statement-breakpoint
CREATE TYPE "public"."link_stage" AS ENUM('planned', 'one-end', 'both-ends', 'failed', 'proved', 'handed-over');--> statement-breakpoint
CREATE TYPE "public"."place_kind" AS ENUM('building', 'room', 'panel', 'port', 'outlet');--> statement-breakpoint
CREATE TYPE "public"."reading_source" AS ENUM('instrument', 'keyed');--> statement-breakpoint
CREATE TYPE "public"."scheme_id" AS ENUM('T568A', 'T568B');--> statement-breakpoint
CREATE TYPE "public"."unit_system" AS ENUM('metric', 'imperial');--> statement-breakpoint
CREATE TABLE "activity" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"job_id" uuid,
	"link_id" uuid,
	"what" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cable_type" (
	"id" text PRIMARY KEY NOT NULL,
	"sheet" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "cable_work" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"kind" "cable_work_kind" NOT NULL,
	"at_m" double precision,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "connector_type" (
	"id" text PRIMARY KEY NOT NULL,
	"sheet" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "crew_member" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"role" "crew_role" NOT NULL,
	"passphrase_hash" text NOT NULL,
	"active" boolean DEFAULT true NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "crew_member_name_given" CHECK ("crew_member"."name" <> '')
);
--> statement-breakpoint
CREATE TABLE "handover" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"test_id" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "job" (
	"id" uuid PRIMARY KEY NOT NULL,
	"site" text NOT NULL,
	"title" text NOT NULL,
	"hub" text NOT NULL,
	"scheme" "scheme_id" NOT NULL,
	"units" "unit_system" NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"label" text NOT NULL,
	"position" integer NOT NULL,
	"cable_type_id" text NOT NULL,
	"length_m" double precision NOT NULL,
	"route" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"stage" "link_stage" DEFAULT 'planned' NOT NULL,
	"standing" text DEFAULT '' NOT NULL,
	"next_step" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" uuid NOT NULL,
	CONSTRAINT "link_label_once" UNIQUE("job_id","label"),
	CONSTRAINT "link_length" CHECK ("link"."length_m" > 0)
);
--> statement-breakpoint
CREATE TABLE "link_end" (
	"link_id" uuid NOT NULL,
	"side" "link_side" NOT NULL,
	"place_id" uuid NOT NULL,
	"connector_type_id" text NOT NULL,
	CONSTRAINT "link_end_link_id_side_pk" PRIMARY KEY("link_id","side")
);
--> statement-breakpoint
CREATE TABLE "place" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"parent_id" uuid,
	"kind" "place_kind" NOT NULL,
	"name" text NOT NULL,
	CONSTRAINT "place_once" UNIQUE NULLS NOT DISTINCT("job_id","parent_id","kind","name")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"crew_id" uuid NOT NULL,
	"forgery_token" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "setting" (
	"name" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "termination_attempt" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"side" "link_side" NOT NULL,
	"connector_type_id" text NOT NULL,
	"outcome" "attempt_outcome" NOT NULL,
	"connectors_spoiled" integer NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"corrects" uuid,
	CONSTRAINT "attempt_spoiled" CHECK ("termination_attempt"."connectors_spoiled" >= 0)
);
--> statement-breakpoint
CREATE TABLE "test_record" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"source" "reading_source" NOT NULL,
	"instrument_name" text NOT NULL,
	"reading" jsonb NOT NULL,
	"diagnosis" jsonb NOT NULL,
	"corrects" uuid,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "activity" ADD CONSTRAINT "activity_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity" ADD CONSTRAINT "activity_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "activity" ADD CONSTRAINT "activity_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cable_work" ADD CONSTRAINT "cable_work_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cable_work" ADD CONSTRAINT "cable_work_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "handover" ADD CONSTRAINT "handover_test_id_test_record_id_fk" FOREIGN KEY ("test_id") REFERENCES "public"."test_record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_updated_by_crew_member_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link" ADD CONSTRAINT "link_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link" ADD CONSTRAINT "link_cable_type_id_cable_type_id_fk" FOREIGN KEY ("cable_type_id") REFERENCES "public"."cable_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link" ADD CONSTRAINT "link_updated_by_crew_member_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link_end" ADD CONSTRAINT "link_end_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link_end" ADD CONSTRAINT "link_end_place_id_place_id_fk" FOREIGN KEY ("place_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "link_end" ADD CONSTRAINT "link_end_connector_type_id_connector_type_id_fk" FOREIGN KEY ("connector_type_id") REFERENCES "public"."connector_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "place" ADD CONSTRAINT "place_parent_id_place_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."place"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_crew_id_crew_member_id_fk" FOREIGN KEY ("crew_id") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD CONSTRAINT "termination_attempt_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD CONSTRAINT "termination_attempt_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD CONSTRAINT "termination_attempt_connector_type_id_connector_type_id_fk" FOREIGN KEY ("connector_type_id") REFERENCES "public"."connector_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD CONSTRAINT "termination_attempt_corrects_termination_attempt_id_fk" FOREIGN KEY ("corrects") REFERENCES "public"."termination_attempt"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_record" ADD CONSTRAINT "test_record_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_record" ADD CONSTRAINT "test_record_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_record" ADD CONSTRAINT "test_record_corrects_test_record_id_fk" FOREIGN KEY ("corrects") REFERENCES "public"."test_record"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "activity_of_job" ON "activity" USING btree ("job_id","id");--> statement-breakpoint
CREATE INDEX "cable_work_of_link" ON "cable_work" USING btree ("link_id");--> statement-breakpoint
CREATE UNIQUE INDEX "crew_member_name" ON "crew_member" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "handover_of_link" ON "handover" USING btree ("link_id");--> statement-breakpoint
CREATE INDEX "link_of_job" ON "link" USING btree ("job_id","position");--> statement-breakpoint
CREATE INDEX "session_expires" ON "session" USING btree ("expires_at");--> statement-breakpoint
CREATE INDEX "attempt_of_link" ON "termination_attempt" USING btree ("link_id");--> statement-breakpoint
CREATE INDEX "test_of_link" ON "test_record" USING btree ("link_id");