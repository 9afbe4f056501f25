ALTER TABLE "fault_found" ADD COLUMN "fault_id" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "test_record" ADD COLUMN "simulated" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "test_record" ADD COLUMN "misread" text DEFAULT '' NOT NULL;