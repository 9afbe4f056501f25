ALTER TABLE "together" DROP CONSTRAINT "together_of_one";--> statement-breakpoint
ALTER TABLE "together" ADD COLUMN "list" jsonb;--> statement-breakpoint
ALTER TABLE "together" ADD CONSTRAINT "together_of_one" CHECK (num_nonnulls("together"."link_id", "together"."wires", "together"."list") = 1);--> statement-breakpoint
-- Links are touched in another order from now on: what was begun in the old one would be taken for the new.
UPDATE "together" SET "ended_at" = now() WHERE "link_id" IS NOT NULL AND "ended_at" IS NULL;
