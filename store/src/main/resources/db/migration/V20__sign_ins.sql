-- A sign-in has no password until its person has set one. A temporary one was given by somebody else: it lets its person do nothing but
-- set their own. What has ended keeps its name for the journal and opens nothing. A program has tokens, and never a password.
ALTER TABLE sign_in ALTER password DROP NOT NULL, ADD temporary boolean NOT NULL DEFAULT false, ADD program boolean NOT NULL DEFAULT false,
    ADD added_at timestamptz NOT NULL DEFAULT now(), ADD last_seen timestamptz, ADD ended_at timestamptz,
    DROP failures, DROP locked_until;

-- kind: console | client | made. scopes: what a made one may be used for; NULL: whatever its sign-in may do. place: the address that it was
-- last used from.
ALTER TABLE token ADD id uuid NOT NULL DEFAULT gen_random_uuid(), ADD kind text NOT NULL DEFAULT 'client', ADD scopes text[],
    ADD last_used timestamptz, ADD place text NOT NULL DEFAULT '';
UPDATE token SET kind = 'console' WHERE label = 'console';
CREATE UNIQUE INDEX ON token (id);

-- What went out by mail, once: an invitation, or a way to set a new password. One at a time.
CREATE TABLE sign_in_link (
    hash bytea PRIMARY KEY, sign_in uuid NOT NULL UNIQUE REFERENCES sign_in ON DELETE CASCADE, purpose text NOT NULL,
    made_at timestamptz NOT NULL, expires_at timestamptz NOT NULL);

-- From where somebody has signed in before: strangers who guess their password do not shut them out there.
CREATE TABLE known_device (
    hash bytea PRIMARY KEY, sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, failures int NOT NULL DEFAULT 0,
    last_used timestamptz NOT NULL);
CREATE INDEX ON known_device (sign_in);

-- Wrong passwords for a login, whether there is such a one or not: the login's hash, shortened, so that there are only so many rows.
CREATE TABLE wrong_password (
    bucket int PRIMARY KEY, failures int NOT NULL, shut_until timestamptz, last_at timestamptz NOT NULL);
