CREATE TABLE "reopening" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"turn" integer NOT NULL,
	"reason" text NOT NULL,
	CONSTRAINT "reopening_reason_given" CHECK ("reopening"."reason" <> '')
);
--> statement-breakpoint
CREATE TABLE "sign_off" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"name" text NOT NULL,
	"role" text NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"digest" text NOT NULL,
	"seal" jsonb NOT NULL,
	CONSTRAINT "sign_off_name_given" CHECK ("sign_off"."name" <> '')
);
--> statement-breakpoint
DROP INDEX "activity_of_job";--> statement-breakpoint
ALTER TABLE "reopening" ADD CONSTRAINT "reopening_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reopening" ADD CONSTRAINT "reopening_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_off" ADD CONSTRAINT "sign_off_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "reopening_of_link" ON "reopening" USING btree ("link_id");--> statement-breakpoint
CREATE INDEX "sign_off_of_job" ON "sign_off" USING btree ("job_id");--> statement-breakpoint
CREATE INDEX "activity_of_job" ON "activity" USING btree ("job_id","at" DESC NULLS LAST,"id" DESC NULLS LAST);--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "reopening" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "sign_off" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
