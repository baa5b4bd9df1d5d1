-- Where an opportunity came from, as the company names it; and whether its value is once or every month.
ALTER TABLE opportunity ADD channel text NOT NULL DEFAULT '', ADD period text NOT NULL DEFAULT 'once' CHECK (period IN ('once', 'month'));

-- The company's own stages and channels, in its order. means: what an open opportunity in that stage comes to.
CREATE TABLE stage (
    position int NOT NULL, name text PRIMARY KEY, means text NOT NULL CHECK (means IN ('open', 'agreed', 'won', 'lost')));
CREATE TABLE channel (position int NOT NULL, name text PRIMARY KEY);

-- How every opportunity was, and since when: rows are added and never changed. origin: change | file (of changes before it came here) |
-- removed | upgrade.
CREATE TABLE opportunity_history (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, opportunity uuid NOT NULL, at timestamptz NOT NULL,
    noted_at timestamptz NOT NULL DEFAULT clock_timestamp(), by_name text NOT NULL, origin text NOT NULL, stage text NOT NULL, state text NOT NULL,
    value numeric(20, 4), currency text NOT NULL, period text NOT NULL, owner uuid, account uuid NOT NULL, channel text NOT NULL);
CREATE INDEX ON opportunity_history (opportunity, at, id);
CREATE UNIQUE INDEX opportunity_history_file ON opportunity_history (opportunity, at) WHERE origin = 'file';
CREATE TABLE account_history (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, account uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(),
    by_name text NOT NULL, owner uuid);
CREATE INDEX ON account_history (account, at, id);
CREATE TABLE person_team (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, person uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(), team text NOT NULL);
CREATE INDEX ON person_team (person, at, id);

INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account, channel)
SELECT id, changed_at, 'service', 'upgrade', stage, state, value, currency, period, owner, account, channel FROM opportunity;
INSERT INTO account_history (account, at, by_name, owner) SELECT id, changed_at, 'service', owner FROM account;
INSERT INTO person_team (person, at, team) SELECT id, changed_at, team FROM person;

-- Who changes something, as the one who changes it says at the beginning of the transaction.
CREATE FUNCTION changed_by() RETURNS text LANGUAGE sql STABLE AS $$
    SELECT coalesce(nullif(current_setting('jandrel.by', true), ''), 'service')
$$;
CREATE FUNCTION opportunity_noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account, channel)
    VALUES (NEW.id, now(), changed_by(), 'change', NEW.stage, NEW.state, NEW.value, NEW.currency, NEW.period, NEW.owner, NEW.account, NEW.channel);
    RETURN NULL;
END $$;
CREATE TRIGGER opportunity_came AFTER INSERT ON opportunity FOR EACH ROW EXECUTE FUNCTION opportunity_noted();
CREATE TRIGGER opportunity_changed AFTER UPDATE ON opportunity FOR EACH ROW
    WHEN ((OLD.stage, OLD.state, OLD.value, OLD.currency, OLD.period, OLD.owner, OLD.account, OLD.channel)
        IS DISTINCT FROM (NEW.stage, NEW.state, NEW.value, NEW.currency, NEW.period, NEW.owner, NEW.account, NEW.channel))
    EXECUTE FUNCTION opportunity_noted();
CREATE FUNCTION opportunity_gone() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account, channel)
    VALUES (OLD.id, now(), changed_by(), 'removed', OLD.stage, OLD.state, OLD.value, OLD.currency, OLD.period, OLD.owner, OLD.account, OLD.channel);
    RETURN NULL;
END $$;
CREATE TRIGGER opportunity_gone AFTER DELETE ON opportunity FOR EACH ROW EXECUTE FUNCTION opportunity_gone();
CREATE FUNCTION account_noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO account_history (account, by_name, owner) VALUES (NEW.id, changed_by(), NEW.owner);
    RETURN NULL;
END $$;
CREATE TRIGGER account_came AFTER INSERT ON account FOR EACH ROW EXECUTE FUNCTION account_noted();
CREATE TRIGGER account_passed_on AFTER UPDATE ON account FOR EACH ROW WHEN (OLD.owner IS DISTINCT FROM NEW.owner)
    EXECUTE FUNCTION account_noted();
CREATE FUNCTION person_noted() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO person_team (person, team) VALUES (NEW.id, NEW.team);
    RETURN NULL;
END $$;
CREATE TRIGGER person_came AFTER INSERT ON person FOR EACH ROW EXECUTE FUNCTION person_noted();
CREATE TRIGGER person_moved AFTER UPDATE ON person FOR EACH ROW WHEN (OLD.team IS DISTINCT FROM NEW.team)
    EXECUTE FUNCTION person_noted();

-- What was, stays as it is written down.
CREATE FUNCTION only_added() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    RAISE EXCEPTION 'rows of % are added and never changed', TG_TABLE_NAME;
END $$;
CREATE TRIGGER only_added BEFORE UPDATE OR DELETE ON opportunity_history FOR EACH STATEMENT EXECUTE FUNCTION only_added();
CREATE TRIGGER only_added BEFORE UPDATE OR DELETE ON account_history FOR EACH STATEMENT EXECUTE FUNCTION only_added();
CREATE TRIGGER only_added BEFORE UPDATE OR DELETE ON person_team FOR EACH STATEMENT EXECUTE FUNCTION only_added();
