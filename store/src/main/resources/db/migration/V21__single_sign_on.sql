-- Where people of the company sign in elsewhere (OpenID Connect). secret: encrypted; NULL where the provider asks for none. otherwise: the
-- role of somebody whose groups have none; 'none' lets nobody in who is in none of them.
CREATE TABLE identity_provider (
    id uuid PRIMARY KEY, name text NOT NULL UNIQUE, issuer text NOT NULL, client_id text NOT NULL, secret bytea,
    groups_claim text NOT NULL, otherwise text NOT NULL, added_at timestamptz NOT NULL, UNIQUE (issuer, client_id));
CREATE TABLE provider_role (
    provider uuid NOT NULL REFERENCES identity_provider ON DELETE CASCADE, group_name text NOT NULL, role text NOT NULL,
    PRIMARY KEY (provider, group_name));

-- Whose sign-in a provider opens: by its subject, which never changes and is never given to somebody else (OpenID Connect Core 1.0, §5.7).
CREATE TABLE provider_identity (
    provider uuid NOT NULL REFERENCES identity_provider ON DELETE CASCADE, subject text NOT NULL,
    sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, first_at timestamptz NOT NULL, last_at timestamptz NOT NULL,
    PRIMARY KEY (provider, subject), UNIQUE (provider, sign_in));
CREATE INDEX ON provider_identity (sign_in);

-- By which provider a session was opened, and, encrypted, what it is ended with there.
ALTER TABLE token ADD provider uuid REFERENCES identity_provider ON DELETE SET NULL, ADD provider_hint bytea;
CREATE INDEX ON token (provider);

-- Whether passwords open anything; where they do not, they do for these alone.
CREATE TABLE password_rule (one boolean PRIMARY KEY DEFAULT true CHECK (one), allowed boolean NOT NULL);
INSERT INTO password_rule (allowed) VALUES (true);
CREATE TABLE emergency_sign_in (sign_in uuid PRIMARY KEY REFERENCES sign_in ON DELETE CASCADE);
