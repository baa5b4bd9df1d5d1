-- Under which policy everybody was, and since when: rows are added and never changed. covered: false once no policy has them any more.
CREATE TABLE cover_history (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, person uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(), policy uuid NOT NULL,
    version int NOT NULL, covered boolean NOT NULL);
CREATE INDEX ON cover_history (person, at, id);
-- Which accounts of theirs were connected, likewise.
CREATE TABLE connection_history (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, person uuid NOT NULL, connection uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(),
    connected boolean NOT NULL);
CREATE INDEX ON connection_history (person, at, id);
INSERT INTO cover_history (person, at, policy, version, covered)
SELECT c.person, coalesce((SELECT min(t.at) FROM person_team t WHERE t.person = c.person), now()), c.policy, c.version, c.covered FROM cover c;
INSERT INTO connection_history (person, connection, at, connected) SELECT person, id, connected_at, true FROM connection;

CREATE FUNCTION cover_noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    IF TG_OP = 'DELETE' THEN
        INSERT INTO cover_history (person, policy, version, covered) VALUES (OLD.person, OLD.policy, OLD.version, false);
    ELSE
        INSERT INTO cover_history (person, policy, version, covered) VALUES (NEW.person, NEW.policy, NEW.version, NEW.covered);
    END IF;
    RETURN NULL;
END $$;
CREATE TRIGGER cover_came AFTER INSERT OR DELETE ON cover FOR EACH ROW EXECUTE FUNCTION cover_noted();
CREATE TRIGGER cover_changed AFTER UPDATE ON cover FOR EACH ROW
    WHEN ((OLD.policy, OLD.version, OLD.covered) IS DISTINCT FROM (NEW.policy, NEW.version, NEW.covered)) EXECUTE FUNCTION cover_noted();
CREATE FUNCTION connection_noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    IF TG_OP = 'DELETE' THEN
        INSERT INTO connection_history (person, connection, connected) VALUES (OLD.person, OLD.id, false);
    ELSE
        INSERT INTO connection_history (person, connection, at, connected) VALUES (NEW.person, NEW.id, NEW.connected_at, true);
    END IF;
    RETURN NULL;
END $$;
CREATE TRIGGER connection_noted AFTER INSERT OR DELETE ON connection FOR EACH ROW EXECUTE FUNCTION connection_noted();

-- Whose verdict changed when it was decided again, and under which version of its person's policy. Nothing of what the item says.
CREATE TABLE decision_change (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, sighting uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(), person uuid NOT NULL,
    policy uuid, version int, before text NOT NULL, after text NOT NULL, rule text NOT NULL);
CREATE INDEX ON decision_change (at);
CREATE INDEX ON decision_change (sighting);

CREATE VIEW jandrel_1.cover_changes WITH (security_barrier) AS
SELECT h.person, h.at, h.policy, v.rules::jsonb ->> 'name' AS policy_name, h.version, h.covered
FROM cover_history h CROSS JOIN reading me LEFT JOIN policy_version v ON v.policy = h.policy AND v.version = h.version
WHERE me.overseen IS NULL OR h.person = ANY(me.overseen);
CREATE VIEW jandrel_1.connection_changes WITH (security_barrier) AS
SELECT h.person, h.connection, h.at, h.connected
FROM connection_history h CROSS JOIN reading me WHERE me.overseen IS NULL OR h.person = ANY(me.overseen);
CREATE VIEW jandrel_1.decision_changes WITH (security_barrier) AS
SELECT c.sighting AS decision, c.at, c.person, c.policy, v.rules::jsonb ->> 'name' AS policy_name, c.version, c.before, c.after,
    CASE WHEN c.after IN ('left-out', 'unreadable') AND (c.person = me.me OR s.part <> 'BLIND') THEN replace(lower(c.rule), '_', '-') END AS reason
FROM decision_change c JOIN sighting s ON s.id = c.sighting CROSS JOIN reading me
LEFT JOIN policy_version v ON v.policy = c.policy AND v.version = c.version
WHERE me.overseen IS NULL OR c.person = ANY(me.overseen);

COMMENT ON VIEW jandrel_1.cover_changes IS 'Who came under which policy, and when, of those whom the reader oversees.';
COMMENT ON COLUMN jandrel_1.cover_changes.person IS 'Of people.';
COMMENT ON COLUMN jandrel_1.cover_changes.at IS 'Since when.';
COMMENT ON COLUMN jandrel_1.cover_changes.policy IS 'Its id.';
COMMENT ON COLUMN jandrel_1.cover_changes.policy_name IS 'What that version is called.';
COMMENT ON COLUMN jandrel_1.cover_changes.version IS 'Of the policy.';
COMMENT ON COLUMN jandrel_1.cover_changes.covered IS 'false once no policy has them any more.';
COMMENT ON VIEW jandrel_1.connection_changes IS 'When mailboxes, calendars and address books were connected and disconnected, of those whom the reader oversees.';
COMMENT ON COLUMN jandrel_1.connection_changes.person IS 'Whose account it is.';
COMMENT ON COLUMN jandrel_1.connection_changes.connection IS 'Its id.';
COMMENT ON COLUMN jandrel_1.connection_changes.at IS 'When.';
COMMENT ON COLUMN jandrel_1.connection_changes.connected IS 'false once it was disconnected.';
COMMENT ON VIEW jandrel_1.decision_changes IS 'Measure: decisions whose verdict changed when they were made again, of those whom the reader oversees.';
COMMENT ON COLUMN jandrel_1.decision_changes.decision IS 'Of decisions.';
COMMENT ON COLUMN jandrel_1.decision_changes.at IS 'When it was decided again.';
COMMENT ON COLUMN jandrel_1.decision_changes.person IS 'Whose source showed the item.';
COMMENT ON COLUMN jandrel_1.decision_changes.policy IS 'Which they were under; NULL for none.';
COMMENT ON COLUMN jandrel_1.decision_changes.policy_name IS 'What that version is called.';
COMMENT ON COLUMN jandrel_1.decision_changes.version IS 'Of the policy.';
COMMENT ON COLUMN jandrel_1.decision_changes.before IS 'logged, waiting, left-out or unreadable.';
COMMENT ON COLUMN jandrel_1.decision_changes.after IS 'Likewise, another.';
COMMENT ON COLUMN jandrel_1.decision_changes.reason IS 'By which rule, of what was left out or cannot be read since.';

-- who reads already reads these, too
DO $$ DECLARE login text; BEGIN
    FOR login IN SELECT r.login FROM reader r JOIN pg_roles p ON p.rolname = r.login LOOP
        EXECUTE format('GRANT SELECT ON jandrel_1.cover_changes, jandrel_1.connection_changes, jandrel_1.decision_changes TO %I', login);
    END LOOP;
END $$;
