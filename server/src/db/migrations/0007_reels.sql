CREATE TYPE "public"."reel_event_kind" AS ENUM('labelled', 'drawn', 'measured');--> statement-breakpoint
CREATE TYPE "public"."reel_kind" AS ENUM('drum', 'box');--> statement-breakpoint
CREATE TABLE "reel" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"kind" "reel_kind" NOT NULL,
	"cable_type_id" text NOT NULL,
	"lot" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reel_entry" (
	"id" uuid PRIMARY KEY NOT NULL,
	"reel_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"what" "reel_event_kind" NOT NULL,
	"length_m" double precision NOT NULL,
	"u95_m" double precision,
	"velocity_factor" double precision,
	"link_id" uuid,
	"corrects" uuid,
	"words" text DEFAULT '' NOT NULL,
	CONSTRAINT "reel_entry_corrected_once" UNIQUE("corrects"),
	CONSTRAINT "reel_entry_length" CHECK ("reel_entry"."length_m" >= 0),
	CONSTRAINT "reel_entry_measured" CHECK (("reel_entry"."what" = 'measured') = ("reel_entry"."u95_m" is not null))
);
--> statement-breakpoint
CREATE TABLE "velocity_figure" (
	"id" uuid PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"cable_type_id" text NOT NULL,
	"lot" text DEFAULT '' NOT NULL,
	"reel_id" uuid,
	"velocity_factor" double precision NOT NULL,
	"u95" double precision NOT NULL,
	"pieces" jsonb NOT NULL,
	CONSTRAINT "velocity_factor_possible" CHECK ("velocity_figure"."velocity_factor" between 0.3 and 1)
);
--> statement-breakpoint
ALTER TABLE "reel" ADD CONSTRAINT "reel_cable_type_id_cable_type_id_fk" FOREIGN KEY ("cable_type_id") REFERENCES "public"."cable_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reel_entry" ADD CONSTRAINT "reel_entry_reel_id_reel_id_fk" FOREIGN KEY ("reel_id") REFERENCES "public"."reel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reel_entry" ADD CONSTRAINT "reel_entry_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reel_entry" ADD CONSTRAINT "reel_entry_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reel_entry" ADD CONSTRAINT "reel_entry_corrects_reel_entry_id_fk" FOREIGN KEY ("corrects") REFERENCES "public"."reel_entry"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "velocity_figure" ADD CONSTRAINT "velocity_figure_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "velocity_figure" ADD CONSTRAINT "velocity_figure_cable_type_id_cable_type_id_fk" FOREIGN KEY ("cable_type_id") REFERENCES "public"."cable_type"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "velocity_figure" ADD CONSTRAINT "velocity_figure_reel_id_reel_id_fk" FOREIGN KEY ("reel_id") REFERENCES "public"."reel"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "reel_name" ON "reel" USING btree (lower("name"));--> statement-breakpoint
CREATE INDEX "reel_entry_of_reel" ON "reel_entry" USING btree ("reel_id");--> statement-breakpoint
CREATE INDEX "velocity_of_cable" ON "velocity_figure" USING btree ("cable_type_id");