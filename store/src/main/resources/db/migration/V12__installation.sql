-- By which key file this database was filled: a keyed hash that only that file gives.
CREATE TABLE installation (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one), key_check uuid NOT NULL);
-- What the states of a server's connections are asked by.
CREATE INDEX ON connection (server, state);
CREATE INDEX ON connection (person);
-- Until when somebody renews its tokens: servers take each refresh token once (RFC 9700 §4.14).
ALTER TABLE connection ADD COLUMN renewing_until timestamptz;
