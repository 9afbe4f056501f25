ALTER TABLE "cable_work" ADD COLUMN "device_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "link_note" ADD COLUMN "device_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "device_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "test_record" ADD COLUMN "device_at" timestamp with time zone;