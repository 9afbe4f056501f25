CREATE TYPE "public"."build_verdict" AS ENUM('proved', 'failed', 'unfinished');--> statement-breakpoint
CREATE TABLE "adapter" (
	"id" uuid PRIMARY KEY NOT NULL,
	"version" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "adapter_build" (
	"id" uuid PRIMARY KEY NOT NULL,
	"adapter_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"name" text NOT NULL,
	"heard" jsonb NOT NULL,
	"verdict" "build_verdict" NOT NULL,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "adapter_photo" (
	"id" uuid PRIMARY KEY NOT NULL,
	"adapter_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"end" text,
	"words" text NOT NULL,
	"jpeg_base64" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "adapter_version" (
	"adapter_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"design" jsonb NOT NULL,
	CONSTRAINT "adapter_version_adapter_id_version_pk" PRIMARY KEY("adapter_id","version"),
	CONSTRAINT "adapter_version_counts" CHECK ("adapter_version"."version" > 0)
);
--> statement-breakpoint
ALTER TABLE "adapter_build" ADD CONSTRAINT "adapter_build_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adapter_build" ADD CONSTRAINT "build_of_version" FOREIGN KEY ("adapter_id","version") REFERENCES "public"."adapter_version"("adapter_id","version") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adapter_photo" ADD CONSTRAINT "adapter_photo_adapter_id_adapter_id_fk" FOREIGN KEY ("adapter_id") REFERENCES "public"."adapter"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adapter_photo" ADD CONSTRAINT "adapter_photo_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adapter_version" ADD CONSTRAINT "adapter_version_adapter_id_adapter_id_fk" FOREIGN KEY ("adapter_id") REFERENCES "public"."adapter"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "adapter_version" ADD CONSTRAINT "adapter_version_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "build_of_adapter" ON "adapter_build" USING btree ("adapter_id");--> statement-breakpoint
CREATE INDEX "photo_of_adapter" ON "adapter_photo" USING btree ("adapter_id");