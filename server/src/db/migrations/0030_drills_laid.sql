ALTER TABLE "drill_answer" ALTER COLUMN "chosen" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "drill_answer" ADD COLUMN "laid" jsonb;--> statement-breakpoint
ALTER TABLE "drill_answer" ADD CONSTRAINT "drill_answer_one_way" CHECK (("drill_answer"."chosen" IS NULL) <> ("drill_answer"."laid" IS NULL));