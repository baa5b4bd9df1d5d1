-- Accounts on whose timelines something came or went, so that when each was touched is kept, too. An activity that changes is made anew, and
-- so are its links.
ALTER TABLE measure_change DROP CONSTRAINT measure_change_kind_check, ADD CHECK (kind IN ('meeting', 'opportunity', 'account'));
CREATE FUNCTION account_touched() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'account', record FROM changed WHERE kind = 'account';
    RETURN NULL;
END $$;
CREATE TRIGGER link_came AFTER INSERT ON link REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION account_touched();
CREATE TRIGGER link_went AFTER DELETE ON link REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION account_touched();
