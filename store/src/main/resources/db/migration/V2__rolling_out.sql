-- Policies for groups of people, in order; every version of each is kept.
ALTER TABLE policy RENAME TO first_policy;
ALTER INDEX policy_pkey RENAME TO first_policy_pkey;
CREATE TABLE policy (
    id uuid PRIMARY KEY, position int NOT NULL, enabled boolean NOT NULL, archived boolean NOT NULL DEFAULT false, version int NOT NULL);
CREATE TABLE policy_version (
    policy uuid NOT NULL REFERENCES policy, version int NOT NULL, rules text NOT NULL, changed_by text NOT NULL,
    changed_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (policy, version));
INSERT INTO policy SELECT '00000000-0000-0000-0000-000000000001', 1, true, false, max(version) FROM first_policy;
INSERT INTO policy_version
SELECT '00000000-0000-0000-0000-000000000001', version, jsonb_build_object(
        'id', '00000000-0000-0000-0000-000000000001', 'version', version, 'name', 'Everyone',
        'audience', '{"everyone": true, "people": [], "teams": [], "roles": []}'::jsonb,
        'scope', jsonb_build_object('received', mail, 'sent', mail, 'meetings', CASE WHEN meetings THEN 'IN' ELSE 'NONE' END,
            'contacts', 'NONE', 'backDays', back_days, 'aheadDays', ahead_days),
        'handling', '{"privateItems": "OUTLINE", "cancelled": "REMOVE", "deleted": "REMOVE", "series": "EACH_OCCURRENCE"}'::jsonb,
        'ties', '{"kinds": ["CONTACT", "ACCOUNT", "OPPORTUNITY"], "tieBreak": "OWNER_THEN_RECENT"}'::jsonb,
        'sharing', sharing, 'rhythm', '{"minutes": 0, "days": [], "times": []}'::jsonb, 'outward', '[]'::jsonb)::text,
    changed_by, changed_at FROM first_policy;
DROP TABLE first_policy;

-- cover_until: nothing from this day on is captured. sharing: how widely the person lets their own items be read.
ALTER TABLE person ADD cover_until date, ADD sharing text NOT NULL DEFAULT 'EVERYONE';
-- Under which policy each person is. One whom no policy has any more stays with their last, covered no longer.
CREATE TABLE cover (
    person uuid PRIMARY KEY REFERENCES person ON DELETE CASCADE, policy uuid NOT NULL REFERENCES policy, version int NOT NULL,
    covered boolean NOT NULL, why text NOT NULL);
INSERT INTO cover SELECT p.id, l.id, l.version, true, 'everyone' FROM person p CROSS JOIN policy l;
CREATE INDEX ON cover (policy);

ALTER TABLE exclusion ADD kind text, ADD policy uuid REFERENCES policy, ADD person uuid REFERENCES person ON DELETE CASCADE,
    ADD last_day date, DROP CONSTRAINT exclusion_key_key;
UPDATE exclusion SET kind = CASE WHEN key LIKE '@%' THEN 'DOMAIN' ELSE 'ADDRESS' END;
ALTER TABLE exclusion ALTER kind SET NOT NULL;
CREATE UNIQUE INDEX exclusion_once ON exclusion (key, kind, coalesce(policy, '00000000-0000-0000-0000-000000000000'),
    coalesce(person, '00000000-0000-0000-0000-000000000000'));
CREATE INDEX exclusion_others ON exclusion (id) WHERE kind NOT IN ('ADDRESS', 'DOMAIN', 'DOMAIN_ALONE');

ALTER TABLE sighting ADD team uuid, ADD gone boolean NOT NULL DEFAULT false;
ALTER TABLE activity ADD trail text NOT NULL DEFAULT '[]';
-- Who reads one item, by somebody's own choice.
CREATE TABLE ruling (
    item uuid PRIMARY KEY, opens boolean NOT NULL, readers uuid[] NOT NULL, by_person uuid REFERENCES person, by_name text NOT NULL,
    readers_named text NOT NULL, at timestamptz NOT NULL DEFAULT now());

-- Counts the changes of all that decisions rest on, so that a rehearsal can tell that it has grown old.
CREATE TABLE rules_state (generation bigint NOT NULL, paused boolean NOT NULL DEFAULT false);
INSERT INTO rules_state VALUES (1);

-- Append-only; each row carries the hash of the one before. before_ and after_ are canonical JSON.
CREATE TABLE journal (
    number bigint PRIMARY KEY, at timestamptz NOT NULL, who text NOT NULL, what text NOT NULL, kind text NOT NULL, thing text NOT NULL,
    name text NOT NULL, before_ text, after_ text, previous text NOT NULL, hash text NOT NULL);
CREATE INDEX ON journal (kind, thing);
CREATE INDEX ON journal (who);
CREATE INDEX ON journal (at);

CREATE TABLE rehearsal (
    id uuid PRIMARY KEY, asked_by text NOT NULL, asked_at timestamptz NOT NULL DEFAULT now(), change text NOT NULL,
    generation bigint NOT NULL, state text NOT NULL, done bigint NOT NULL DEFAULT 0, total bigint NOT NULL DEFAULT 0,
    report text, detail text NOT NULL DEFAULT '', undo text);

-- sign_in: password | oauth | organisation-password | organisation-key. secret: the organisation's, or the client's.
ALTER TABLE server ADD sign_in text NOT NULL DEFAULT 'password', ADD grant_login text NOT NULL DEFAULT '', ADD secret bytea,
    ADD issuer text NOT NULL DEFAULT '', ADD client_id text NOT NULL DEFAULT '', ADD scopes text NOT NULL DEFAULT '',
    ADD authority text NOT NULL DEFAULT '';
-- Hosts inside the company's own network that an administrator allowed.
CREATE TABLE allowed_host (host text PRIMARY KEY, allowed_by text NOT NULL, allowed_at timestamptz NOT NULL DEFAULT now());
ALTER TABLE connection ALTER secret DROP NOT NULL, ADD agreed_by text NOT NULL DEFAULT '', ADD agreed_at timestamptz,
    ADD told_at timestamptz, ADD due timestamptz;
-- A consent under way (RFC 6749 section 4.1, RFC 7636): what the answer must bring back, and the secret it is proved by.
CREATE TABLE consent (
    state text PRIMARY KEY, connection uuid NOT NULL REFERENCES connection ON DELETE CASCADE, verifier bytea NOT NULL,
    expires_at timestamptz NOT NULL);
ALTER TABLE source ADD chosen boolean NOT NULL DEFAULT true, ADD last_item timestamptz;
-- Teams made by a directory elsewhere, which may have nobody in them yet.
CREATE TABLE team (name text PRIMARY KEY);
