CREATE TABLE "loose_end" (
	"id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"name" text NOT NULL,
	"cable_type_id" text NOT NULL,
	"connector_type_id" text NOT NULL,
	"scheme" "scheme_id" NOT NULL,
	"outcome" "attempt_outcome" NOT NULL,
	"connectors_spoiled" integer NOT NULL,
	"reason" text NOT NULL,
	"lot" text NOT NULL,
	"tool" text NOT NULL,
	"stopgap" text NOT NULL,
	"touched" jsonb,
	"proof" "build_verdict",
	CONSTRAINT "loose_end_spoiled" CHECK ("loose_end"."connectors_spoiled" BETWEEN 0 AND 50),
	CONSTRAINT "loose_end_proof" CHECK (("loose_end"."touched" IS NULL) = ("loose_end"."proof" IS NULL))
);
--> statement-breakpoint
CREATE TABLE "loose_given" (
	"loose_end_id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL
);
--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_cable_type_id_cable_type_id_fk" FOREIGN KEY ("cable_type_id") REFERENCES "public"."cable_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_connector_type_id_connector_type_id_fk" FOREIGN KEY ("connector_type_id") REFERENCES "public"."connector_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_given" ADD CONSTRAINT "loose_given_loose_end_id_loose_end_id_fk" FOREIGN KEY ("loose_end_id") REFERENCES "public"."loose_end"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_given" ADD CONSTRAINT "loose_given_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_given" ADD CONSTRAINT "loose_given_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "loose_given_to_job" ON "loose_given" USING btree ("job_id");--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "loose_end" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "loose_given" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
