-- A card made from a sheet must be made from it again: versions are never rewritten.
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "kit_sheet" FOR EACH STATEMENT EXECUTE FUNCTION refuse_rewrite();
