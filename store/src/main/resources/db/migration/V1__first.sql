CREATE EXTENSION IF NOT EXISTS pg_trgm;

-- The directory. "key" is the importing file's own key.
CREATE TABLE person (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, name text NOT NULL, team text NOT NULL DEFAULT '', role text NOT NULL DEFAULT '');
CREATE TABLE person_address (
    address text PRIMARY KEY, person uuid NOT NULL REFERENCES person ON DELETE CASCADE);
CREATE INDEX ON person_address (person);
CREATE TABLE account (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, name text NOT NULL, owner uuid REFERENCES person);
CREATE INDEX account_name ON account USING gin (name gin_trgm_ops);
CREATE TABLE account_domain (
    domain text PRIMARY KEY, account uuid NOT NULL REFERENCES account ON DELETE CASCADE);
CREATE INDEX ON account_domain (account);
CREATE TABLE contact (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, name text NOT NULL, title text NOT NULL DEFAULT '',
    account uuid REFERENCES account, last_active date);
CREATE INDEX ON contact (account);
CREATE INDEX contact_name ON contact USING gin (name gin_trgm_ops);
CREATE TABLE contact_address (
    address text NOT NULL, contact uuid NOT NULL REFERENCES contact ON DELETE CASCADE, PRIMARY KEY (address, contact));
CREATE INDEX ON contact_address (contact);
CREATE TABLE opportunity (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, name text NOT NULL, account uuid NOT NULL REFERENCES account,
    stage text NOT NULL DEFAULT '', state text NOT NULL, value numeric(20, 4), currency text NOT NULL DEFAULT '',
    owner uuid REFERENCES person);
CREATE INDEX ON opportunity (account);
CREATE INDEX opportunity_name ON opportunity USING gin (name gin_trgm_ops);
-- Domains are kept with a leading @, as matching looks them up.
CREATE TABLE own_domain (domain text PRIMARY KEY);
CREATE TABLE free_mail_domain (domain text PRIMARY KEY);
INSERT INTO free_mail_domain VALUES
    ('@gmail.com'), ('@googlemail.com'), ('@outlook.com'), ('@hotmail.com'), ('@live.com'), ('@msn.com'), ('@yahoo.com'),
    ('@ymail.com'), ('@aol.com'), ('@icloud.com'), ('@me.com'), ('@mac.com'), ('@proton.me'), ('@protonmail.com'), ('@gmx.com'),
    ('@gmx.net'), ('@gmx.de'), ('@web.de'), ('@t-online.de'), ('@freenet.de'), ('@orange.fr'), ('@wanadoo.fr'), ('@free.fr'),
    ('@laposte.net'), ('@libero.it'), ('@virgilio.it'), ('@mail.ru'), ('@yandex.ru'), ('@yandex.com'), ('@qq.com'), ('@163.com'),
    ('@126.com'), ('@sina.com'), ('@naver.com'), ('@daum.net'), ('@zoho.com'), ('@fastmail.com'), ('@hey.com'), ('@tutanota.com'),
    ('@btinternet.com'), ('@comcast.net'), ('@verizon.net'), ('@uol.com.br'), ('@terra.com.br'), ('@bigpond.com'), ('@rediffmail.com');

CREATE TABLE exclusion (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, reason text NOT NULL DEFAULT '',
    added_by text NOT NULL, added_at timestamptz NOT NULL DEFAULT now());

-- Every version is kept; the greatest counts.
CREATE TABLE policy (
    version int PRIMARY KEY, mail boolean NOT NULL, meetings boolean NOT NULL, back_days int NOT NULL, ahead_days int NOT NULL,
    sharing text NOT NULL, changed_by text NOT NULL, changed_at timestamptz NOT NULL DEFAULT now());
INSERT INTO policy VALUES (1, true, true, 90, 60, 'EVERYONE', 'installation');

CREATE TABLE sign_in (
    id uuid PRIMARY KEY, login text NOT NULL UNIQUE, name text NOT NULL, password text NOT NULL, role text NOT NULL,
    person uuid REFERENCES person, failures int NOT NULL DEFAULT 0, locked_until timestamptz);
CREATE TABLE token (
    hash bytea PRIMARY KEY, sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE,
    label text NOT NULL, created_at timestamptz NOT NULL DEFAULT now(), expires_at timestamptz NOT NULL);
CREATE INDEX ON token (sign_in);

CREATE TABLE server (
    id uuid PRIMARY KEY, name text NOT NULL UNIQUE, kind text NOT NULL, host text NOT NULL, port int NOT NULL,
    path text NOT NULL DEFAULT '/');
CREATE TABLE connection (
    id uuid PRIMARY KEY, person uuid NOT NULL REFERENCES person, server uuid NOT NULL REFERENCES server,
    account text NOT NULL, secret bytea NOT NULL, connected_at timestamptz NOT NULL, since timestamptz NOT NULL,
    state text NOT NULL DEFAULT 'connecting', detail text NOT NULL DEFAULT '', last_run timestamptz,
    failures int NOT NULL DEFAULT 0,
    UNIQUE (server, account));
CREATE TABLE source (
    id int GENERATED ALWAYS AS IDENTITY PRIMARY KEY, connection uuid NOT NULL REFERENCES connection ON DELETE CASCADE,
    kind text NOT NULL, name text NOT NULL, label text NOT NULL, cursor text NOT NULL DEFAULT '',
    expanded_to timestamptz, UNIQUE (connection, name));
-- Calendar objects whose series go on after the window, to be read again as it moves.
CREATE TABLE open_series (
    source int NOT NULL REFERENCES source ON DELETE CASCADE, href text NOT NULL, PRIMARY KEY (source, href));

-- One row an item and source that showed it: the decision. facts and keys are null for what was left out. trail, links and facts
-- are JSON, but kept as text: nothing here asks into them, and taking jsonb in costs the backend a parse each.
CREATE TABLE sighting (
    id uuid PRIMARY KEY, source int NOT NULL, position text NOT NULL,
    person uuid NOT NULL, item uuid NOT NULL, kind text NOT NULL, at timestamptz NOT NULL,
    verdict text NOT NULL, rule text NOT NULL, trail text NOT NULL, links text, sharing text NOT NULL, insiders uuid[] NOT NULL,
    exclusion uuid, facts text, keys text[], refetch boolean NOT NULL DEFAULT false);
CREATE UNIQUE INDEX sighting_position ON sighting (source, position text_pattern_ops);
CREATE INDEX sighting_item ON sighting (item);
CREATE INDEX sighting_at ON sighting (at DESC, id DESC);
CREATE INDEX sighting_keys ON sighting USING gin (keys);
CREATE INDEX sighting_exclusion ON sighting (exclusion) WHERE exclusion IS NOT NULL;
CREATE INDEX sighting_refetch ON sighting (source) WHERE refetch;

-- One row an item that stands on timelines. readers: null for everybody.
CREATE TABLE activity (
    id uuid PRIMARY KEY, kind text NOT NULL, at timestamptz NOT NULL, ends timestamptz, all_day boolean NOT NULL,
    subject text NOT NULL, people text NOT NULL, facts text NOT NULL, readers uuid[], owners uuid[] NOT NULL,
    insiders uuid[] NOT NULL, version text NOT NULL,
    words tsvector GENERATED ALWAYS AS (to_tsvector('simple', subject || ' ' || people)) STORED);
CREATE INDEX activity_words ON activity USING gin (words);
-- state: here | wanted (to be fetched) | gone (its source no longer has it)
CREATE TABLE body (
    activity uuid PRIMARY KEY, version text NOT NULL, state text NOT NULL, text text COMPRESSION lz4 NOT NULL DEFAULT '',
    html text COMPRESSION lz4 NOT NULL DEFAULT '', attachments text NOT NULL DEFAULT '[]');
CREATE TABLE link (
    record uuid NOT NULL, at timestamptz NOT NULL, activity uuid NOT NULL, kind text NOT NULL, evidence text NOT NULL,
    PRIMARY KEY (record, at, activity));
CREATE INDEX link_activity ON link (activity);

-- Work owed after a change of directory, policy or exclusions: these sightings are decided again.
CREATE TABLE reconsider (sighting uuid PRIMARY KEY);

CREATE TABLE scheduled_tasks (
    task_name text NOT NULL, task_instance text NOT NULL, task_data bytea, execution_time timestamptz NOT NULL,
    picked boolean NOT NULL, picked_by text, last_success timestamptz, last_failure timestamptz, consecutive_failures int,
    last_heartbeat timestamptz, version bigint NOT NULL, priority smallint, state text, PRIMARY KEY (task_name, task_instance));
CREATE INDEX ON scheduled_tasks (execution_time);
CREATE INDEX ON scheduled_tasks (last_heartbeat);
