CREATE TYPE "public"."kit_kind" AS ENUM('cable', 'connector', 'tool');--> statement-breakpoint
CREATE TABLE "kit_sheet" (
	"kind" "kit_kind" NOT NULL,
	"type_id" text NOT NULL,
	"version" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid,
	"sheet" jsonb NOT NULL,
	CONSTRAINT "kit_sheet_kind_type_id_version_pk" PRIMARY KEY("kind","type_id","version"),
	CONSTRAINT "kit_sheet_version" CHECK ("kit_sheet"."version" > 0)
);
--> statement-breakpoint
CREATE TABLE "tool_type" (
	"id" text PRIMARY KEY NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"sheet" jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "cable_type" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "connector_type" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "lot" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "stopgap" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "connector_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "cable_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "kit_sheet" ADD CONSTRAINT "kit_sheet_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;