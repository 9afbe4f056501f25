ALTER TABLE "link" ADD COLUMN "near_done" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "far_done" boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE "link" SET "near_done" = "standing" <> 'near end waits', "far_done" = "standing" <> 'far end waits' WHERE "stage" <> 'planned';
