-- What was measured and entered is never rewritten: a correction is a new row that names the old.
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "reel_entry" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "velocity_figure" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "trace_record" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
