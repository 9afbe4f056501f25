CREATE TABLE "loose_photo" (
	"id" uuid PRIMARY KEY NOT NULL,
	"loose_end_id" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" uuid NOT NULL,
	"seq" bigserial NOT NULL,
	"jpeg_base64" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "loose_end" ADD COLUMN "schools" jsonb DEFAULT '{"ringingWire":false,"flatEnd":"first"}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "loose_end" ADD COLUMN "function_test" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "loose_end" ADD COLUMN "seen" jsonb;--> statement-breakpoint
ALTER TABLE "loose_end" ADD COLUMN "not_as_card" jsonb;--> statement-breakpoint
ALTER TABLE "loose_photo" ADD CONSTRAINT "loose_photo_loose_end_id_loose_end_id_fk" FOREIGN KEY ("loose_end_id") REFERENCES "public"."loose_end"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "loose_photo" ADD CONSTRAINT "loose_photo_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "photo_of_loose_end" ON "loose_photo" USING btree ("loose_end_id");--> statement-breakpoint
ALTER TABLE "loose_end" ADD CONSTRAINT "loose_end_seen" CHECK (("loose_end"."seen" IS NULL) = ("loose_end"."not_as_card" IS NULL));--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "loose_photo" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
