-- Days (UTC) on which mail or a meeting came, went or changed, so that how much there was of them is kept, too. As ids: counted from ten
-- million days before 1970 on, so that there is none below zero.
ALTER TABLE measure_change DROP CONSTRAINT measure_change_kind_check, ADD CHECK (kind IN ('meeting', 'opportunity', 'account', 'day'));
CREATE FUNCTION utc_day(at timestamptz) RETURNS bigint LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT floor(extract(epoch FROM at) / 86400)::bigint
$$;
CREATE FUNCTION utc_day_key(day bigint) RETURNS uuid LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT ('00000000-0000-0000-0000-' || lpad(to_hex(day + 10000000), 12, '0'))::uuid
$$;
CREATE OR REPLACE FUNCTION meeting_changed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'meeting', item FROM changed WHERE kind = 'meeting'
        UNION ALL SELECT 'day', utc_day_key(day) FROM (SELECT DISTINCT utc_day(at) AS day FROM changed) d;
    RETURN NULL;
END $$;
CREATE FUNCTION activity_moved() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'meeting', item FROM changed WHERE kind = 'meeting'
        UNION ALL SELECT 'day', utc_day_key(day) FROM (SELECT utc_day(at) AS day FROM was UNION SELECT utc_day(at) FROM changed) d;
    RETURN NULL;
END $$;
DROP TRIGGER meeting_changed ON activity;
CREATE TRIGGER activity_moved AFTER UPDATE ON activity REFERENCING OLD TABLE AS was NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION activity_moved();
CREATE OR REPLACE FUNCTION account_touched() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'account', record FROM changed WHERE kind = 'account'
        UNION ALL SELECT 'day', utc_day_key(day) FROM (SELECT DISTINCT utc_day(at) AS day FROM changed) d;
    RETURN NULL;
END $$;
CREATE FUNCTION outcome_told() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'meeting', item FROM changed
        UNION ALL SELECT 'day', utc_day_key(day) FROM (
            SELECT utc_day(a.at) AS day FROM changed c JOIN activity a ON a.id = c.item
            UNION SELECT utc_day(a.at) FROM changed c JOIN activity a ON a.item = c.item AND a.id <> a.item) d;
    RETURN NULL;
END $$;
DROP TRIGGER outcome_told ON meeting_outcome;
DROP TRIGGER outcome_untold ON meeting_outcome;
CREATE TRIGGER outcome_told AFTER INSERT ON meeting_outcome REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION outcome_told();
CREATE TRIGGER outcome_untold AFTER DELETE ON meeting_outcome REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION outcome_told();
CREATE INDEX activity_at ON activity (at);
