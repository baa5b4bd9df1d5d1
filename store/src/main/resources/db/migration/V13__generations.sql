-- Grows with every change of what is captured from a connection: a look that began before one records nothing more.
ALTER TABLE connection ADD COLUMN generation bigint NOT NULL DEFAULT 0;
-- Whether it is to be looked at once more, as soon as the look under way has ended, on whichever node that is.
ALTER TABLE connection ADD COLUMN look_again boolean NOT NULL DEFAULT false;
CREATE INDEX ON connection (id) WHERE look_again;

-- A person's decisions; and those that a rule left out, for whoever asks for them or undoes the rule.
CREATE INDEX sighting_person ON sighting (person, at DESC, id DESC);
CREATE INDEX sighting_rule ON sighting (rule, at DESC, id DESC) WHERE verdict IN ('left-out', 'unreadable');

-- How many there are of each sort, kept as they change: each change adds rows, so that nobody waits for anybody, and the rows of one
-- sort are made one now and then. The number of a sort is the sum of its rows.
CREATE TABLE tally (source int NOT NULL, kind text NOT NULL, verdict text NOT NULL, rule text NOT NULL, n bigint NOT NULL);
CREATE INDEX ON tally (source);
CREATE TABLE activity_tally (n bigint NOT NULL);

CREATE FUNCTION tally_more() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO tally SELECT source, kind, verdict, rule, count(*) FROM changed GROUP BY 1, 2, 3, 4;
    RETURN NULL;
END $$;
CREATE FUNCTION tally_less() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO tally SELECT source, kind, verdict, rule, -count(*) FROM changed GROUP BY 1, 2, 3, 4;
    RETURN NULL;
END $$;
CREATE FUNCTION tally_none() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    DELETE FROM tally;
    RETURN NULL;
END $$;
CREATE TRIGGER tally_more AFTER INSERT ON sighting REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION tally_more();
CREATE TRIGGER tally_less AFTER DELETE ON sighting REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION tally_less();
CREATE TRIGGER tally_none AFTER TRUNCATE ON sighting FOR EACH STATEMENT EXECUTE FUNCTION tally_none();

CREATE FUNCTION activity_tally_more() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO activity_tally SELECT count(*) FROM changed WHERE face = 0 HAVING count(*) > 0;
    RETURN NULL;
END $$;
CREATE FUNCTION activity_tally_less() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO activity_tally SELECT -count(*) FROM changed WHERE face = 0 HAVING count(*) > 0;
    RETURN NULL;
END $$;
CREATE FUNCTION activity_tally_none() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    DELETE FROM activity_tally;
    RETURN NULL;
END $$;
CREATE TRIGGER activity_tally_more AFTER INSERT ON activity REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION activity_tally_more();
CREATE TRIGGER activity_tally_less AFTER DELETE ON activity REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION activity_tally_less();
CREATE TRIGGER activity_tally_none AFTER TRUNCATE ON activity FOR EACH STATEMENT EXECUTE FUNCTION activity_tally_none();

INSERT INTO tally SELECT source, kind, verdict, rule, count(*) FROM sighting GROUP BY 1, 2, 3, 4;
INSERT INTO activity_tally SELECT count(*) FROM activity WHERE face = 0;
