ALTER TABLE "link" ADD COLUMN "turns" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "link" ADD COLUMN "judged" boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE "cable_work" ADD COLUMN "turn" integer;--> statement-breakpoint
ALTER TABLE "handover" ADD COLUMN "turn" integer;--> statement-breakpoint
ALTER TABLE "termination_attempt" ADD COLUMN "turn" integer;--> statement-breakpoint
ALTER TABLE "test_record" ADD COLUMN "turn" integer;--> statement-breakpoint
ALTER TABLE "trace_record" ADD COLUMN "turn" integer;--> statement-breakpoint
-- Records kept before there were turns: in the order that was read from their times until now.
CREATE TEMPORARY TABLE "turn_of" ON COMMIT DROP AS
SELECT "id", "link_id", row_number() OVER (PARTITION BY "link_id" ORDER BY date_trunc('milliseconds', "at"), "rank", "seq")::integer AS "turn"
FROM (
SELECT "id", "link_id", "at", "seq", 3 AS "rank" FROM "cable_work"
  UNION ALL SELECT "id", "link_id", "at", "seq", 4 AS "rank" FROM "handover"
  UNION ALL SELECT "id", "link_id", "at", "seq", 2 AS "rank" FROM "termination_attempt"
  UNION ALL SELECT "id", "link_id", "at", "seq", 1 AS "rank" FROM "test_record"
  UNION ALL SELECT "id", "link_id", "at", "seq", 5 AS "rank" FROM "trace_record"
) AS "recorded";--> statement-breakpoint
ALTER TABLE "cable_work" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "cable_work" SET "turn" = "turn_of"."turn" FROM "turn_of" WHERE "turn_of"."id" = "cable_work"."id";--> statement-breakpoint
ALTER TABLE "cable_work" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "cable_work" ALTER COLUMN "turn" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "handover" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "handover" SET "turn" = "turn_of"."turn" FROM "turn_of" WHERE "turn_of"."id" = "handover"."id";--> statement-breakpoint
ALTER TABLE "handover" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "handover" ALTER COLUMN "turn" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "termination_attempt" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "termination_attempt" SET "turn" = "turn_of"."turn" FROM "turn_of" WHERE "turn_of"."id" = "termination_attempt"."id";--> statement-breakpoint
ALTER TABLE "termination_attempt" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "termination_attempt" ALTER COLUMN "turn" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "test_record" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "test_record" SET "turn" = "turn_of"."turn" FROM "turn_of" WHERE "turn_of"."id" = "test_record"."id";--> statement-breakpoint
ALTER TABLE "test_record" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "test_record" ALTER COLUMN "turn" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "trace_record" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "trace_record" SET "turn" = "turn_of"."turn" FROM "turn_of" WHERE "turn_of"."id" = "trace_record"."id";--> statement-breakpoint
ALTER TABLE "trace_record" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "trace_record" ALTER COLUMN "turn" SET NOT NULL;--> statement-breakpoint
UPDATE "link" SET "turns" = "most" FROM (SELECT "link_id", max("turn") AS "most" FROM "turn_of" GROUP BY "link_id") AS "drawn" WHERE "drawn"."link_id" = "link"."id";--> statement-breakpoint
CREATE INDEX "link_to_judge" ON "link" USING btree ("id") WHERE NOT "link"."judged";