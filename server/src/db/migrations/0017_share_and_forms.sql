CREATE TYPE "public"."crew_form_kind" AS ENUM('report', 'label-stock', 'label-lines');--> statement-breakpoint
CREATE TABLE "crew_form" (
	"id" uuid PRIMARY KEY NOT NULL,
	"kind" "crew_form_kind" NOT NULL,
	"name" text NOT NULL,
	"body" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" uuid NOT NULL
);
--> statement-breakpoint
CREATE TABLE "share_link" (
	"id" uuid PRIMARY KEY NOT NULL,
	"job_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"for_whom" text NOT NULL,
	"token_hash" text NOT NULL,
	"days" integer NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"revoked_at" timestamp with time zone,
	"opened" integer DEFAULT 0 NOT NULL,
	"opened_at" timestamp with time zone,
	CONSTRAINT "share_link_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
ALTER TABLE "crew_form" ADD CONSTRAINT "crew_form_updated_by_crew_member_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "share_link" ADD CONSTRAINT "share_link_job_id_job_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "share_link" ADD CONSTRAINT "share_link_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "crew_form_name" ON "crew_form" USING btree ("kind",lower("name"));--> statement-breakpoint
CREATE INDEX "share_link_of_job" ON "share_link" USING btree ("job_id");