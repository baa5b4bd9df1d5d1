-- Meetings (by item) and opportunities that changed, so that what measures count is read once and then costs what changed. Written in the
-- transaction of the change, read by every node, and of no use after a day.
CREATE TABLE measure_change (
    tx xid8 NOT NULL DEFAULT pg_current_xact_id(), at timestamptz NOT NULL DEFAULT now(), kind text NOT NULL CHECK (kind IN ('meeting', 'opportunity')),
    id uuid NOT NULL);
CREATE INDEX ON measure_change (tx);
CREATE FUNCTION meeting_changed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'meeting', item FROM changed WHERE kind = 'meeting';
    RETURN NULL;
END $$;
CREATE TRIGGER meeting_came AFTER INSERT ON activity REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_changed();
CREATE TRIGGER meeting_went AFTER DELETE ON activity REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_changed();
CREATE TRIGGER meeting_changed AFTER UPDATE ON activity REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_changed();
CREATE FUNCTION meeting_told() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'meeting', item FROM changed;
    RETURN NULL;
END $$;
CREATE TRIGGER outcome_told AFTER INSERT ON meeting_outcome REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_told();
CREATE TRIGGER outcome_untold AFTER DELETE ON meeting_outcome REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_told();
CREATE TRIGGER result_told AFTER INSERT ON meeting_result REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION meeting_told();
CREATE FUNCTION opportunity_moved() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO measure_change (kind, id) SELECT DISTINCT 'opportunity', opportunity FROM changed;
    RETURN NULL;
END $$;
-- one that is removed writes itself down there, too
CREATE TRIGGER opportunity_moved AFTER INSERT ON opportunity_history REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION opportunity_moved();
