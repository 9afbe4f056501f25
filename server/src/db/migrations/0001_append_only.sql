-- What was measured or done is never rewritten: a correction is a new row that names the old.
CREATE FUNCTION refuse_rewrite() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION '% is append-only: add a correction that names the old row', TG_TABLE_NAME
    USING ERRCODE = 'restrict_violation';
END;
$$;
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "termination_attempt" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "cable_work" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "test_record" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "handover" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "activity" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
