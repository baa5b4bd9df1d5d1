-- Whose an account is, and whether it is in the lists, is kept with when it was touched.
CREATE FUNCTION account_listed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT 'account', id FROM changed;
    RETURN NULL;
END $$;
CREATE FUNCTION account_owned() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT 'account', n.id FROM changed n JOIN was o ON o.id = n.id
        WHERE n.owner IS DISTINCT FROM o.owner OR (n.archived_at IS NULL) <> (o.archived_at IS NULL);
    RETURN NULL;
END $$;
CREATE TRIGGER account_listed AFTER INSERT ON account REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION account_listed();
CREATE TRIGGER account_unlisted AFTER DELETE ON account REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION account_listed();
CREATE TRIGGER account_owned AFTER UPDATE ON account REFERENCING OLD TABLE AS was NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION account_owned();
