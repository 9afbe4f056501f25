ALTER TABLE "job" ADD COLUMN "stretches" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "carries" jsonb DEFAULT '{}'::jsonb NOT NULL;