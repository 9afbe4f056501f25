CREATE TABLE "together" (
	"id" uuid PRIMARY KEY NOT NULL,
	"link_id" uuid,
	"wires" jsonb,
	"code" text NOT NULL,
	"by" uuid NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "together_of_one" CHECK (("together"."link_id" IS NULL) <> ("together"."wires" IS NULL))
);
--> statement-breakpoint
CREATE TABLE "together_helper" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"together_id" uuid NOT NULL,
	"end" "link_side" NOT NULL,
	"name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "together_told" (
	"id" uuid PRIMARY KEY NOT NULL,
	"together_id" uuid NOT NULL,
	"n" integer NOT NULL,
	"end" "link_side" NOT NULL,
	"who" text NOT NULL,
	"doing" jsonb NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "together_told_order" UNIQUE("together_id","n")
);
--> statement-breakpoint
ALTER TABLE "together" ADD CONSTRAINT "together_link_id_link_id_fk" FOREIGN KEY ("link_id") REFERENCES "public"."link"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "together" ADD CONSTRAINT "together_by_crew_member_id_fk" FOREIGN KEY ("by") REFERENCES "public"."crew_member"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "together_helper" ADD CONSTRAINT "together_helper_together_id_together_id_fk" FOREIGN KEY ("together_id") REFERENCES "public"."together"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "together_told" ADD CONSTRAINT "together_told_together_id_together_id_fk" FOREIGN KEY ("together_id") REFERENCES "public"."together"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "together_code" ON "together" USING btree ("code") WHERE "together"."ended_at" IS NULL;--> statement-breakpoint
CREATE UNIQUE INDEX "together_of_link" ON "together" USING btree ("link_id") WHERE "together"."ended_at" IS NULL;--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "together_told" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
