ALTER TABLE "link" DROP CONSTRAINT "link_label_once";--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "closed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "out_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "out_by" uuid;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "out_reason" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "link" ADD CONSTRAINT "link_out_by_crew_member_id_fk" FOREIGN KEY ("out_by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "link_label_once" ON "link" USING btree ("job_id","label") WHERE "link"."out_at" IS NULL;