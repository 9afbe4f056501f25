-- Versions, what was built of them and photos are never rewritten.
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "adapter_version" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "adapter_build" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
--> statement-breakpoint
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "adapter_photo" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
