-- When a record came here: of contacts that share an address, a policy may prefer the oldest.
ALTER TABLE contact ADD made_at timestamptz NOT NULL DEFAULT now();

-- A meeting, call or follow-up that was made or changed here, and how it stands with its owner's calendar. template: the facts that it
-- began with. details, base, sending: our side, what its changes are told from, and a write without an answer yet (JSON). source and
-- href: where it stands in a calendar. owed: whether the two sides have yet to be settled.
CREATE TABLE plan (
    id uuid PRIMARY KEY, item uuid NOT NULL UNIQUE, uid text NOT NULL, recurrence timestamptz, owner uuid NOT NULL REFERENCES person,
    made_here boolean NOT NULL, made_by text NOT NULL, made_at timestamptz NOT NULL, out boolean NOT NULL, template text NOT NULL,
    details text, sequence int NOT NULL, stamp timestamptz NOT NULL, changed_at timestamptz NOT NULL, changed_by text NOT NULL,
    base text, sending text, parted boolean NOT NULL DEFAULT false, version bigint NOT NULL DEFAULT 1,
    source int REFERENCES source ON DELETE SET NULL, href text NOT NULL DEFAULT '', owed boolean NOT NULL,
    trouble text NOT NULL DEFAULT '');
CREATE INDEX ON plan (source, href);
CREATE INDEX ON plan (owner);
CREATE INDEX plan_owed ON plan (owner) WHERE owed;
-- What one side lost to the other; lost: all of the losing side (JSON).
CREATE TABLE conflict (
    id uuid PRIMARY KEY, plan uuid NOT NULL REFERENCES plan ON DELETE CASCADE, at timestamptz NOT NULL DEFAULT now(), field text,
    here_won boolean NOT NULL, here text NOT NULL, calendar text NOT NULL, lost text, brought_back_by text, brought_back_at timestamptz);
CREATE INDEX ON conflict (plan);
CREATE INDEX ON conflict (at);
-- A meeting that was moved: from when to when, and by whom.
CREATE TABLE moved (
    item uuid NOT NULL, at timestamptz NOT NULL DEFAULT now(), was_begins timestamptz NOT NULL, was_ends timestamptz NOT NULL,
    begins timestamptz NOT NULL, ends timestamptz NOT NULL, by_name text NOT NULL);
CREATE INDEX ON moved (item, at);
-- What somebody said of how a meeting went: held | missed.
CREATE TABLE told (item uuid PRIMARY KEY, state text NOT NULL, by_name text NOT NULL, at timestamptz NOT NULL DEFAULT now());
-- What a calendar asks for, without a look at the rows; and the few that reach over days.
CREATE INDEX activity_meeting ON activity (at, id) INCLUDE (ends, all_day, owners) WHERE kind = 'meeting';
CREATE INDEX activity_long_meeting ON activity (at) WHERE kind = 'meeting' AND ends - at > interval '24 hours';
-- outgoing: where what is made here goes. held: a mass change that waits for somebody's answer (JSON); empty for none. let: the mass
-- change that somebody let pass.
ALTER TABLE source ADD colour text NOT NULL DEFAULT '', ADD outgoing boolean NOT NULL DEFAULT false, ADD held text NOT NULL DEFAULT '',
    ADD let_pass boolean NOT NULL DEFAULT false, ADD news text NOT NULL DEFAULT '';
CREATE UNIQUE INDEX source_outgoing ON source (connection) WHERE outgoing;
-- A record's or a person's meetings for a calendar program, by a secret address of which only the hash is kept.
CREATE TABLE feed (
    id uuid PRIMARY KEY, hash bytea NOT NULL UNIQUE, sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, kind text NOT NULL,
    of_id uuid NOT NULL, name text NOT NULL, made_at timestamptz NOT NULL DEFAULT now(), last_read timestamptz);
CREATE INDEX ON feed (sign_in);
