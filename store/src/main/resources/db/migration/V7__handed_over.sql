-- Messages that people handed over by mail, encrypted, until they stand on a timeline: there is no mailbox to ask for them again.
CREATE TABLE handed (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, connection uuid NOT NULL REFERENCES connection ON DELETE CASCADE,
    at timestamptz NOT NULL DEFAULT now(), sealed bytea NOT NULL);
CREATE INDEX ON handed (connection, id);
