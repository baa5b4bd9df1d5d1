-- Contacts who look like one person and of whom somebody said that they are two; one < other.
CREATE TABLE two_people (
    one uuid NOT NULL REFERENCES contact ON DELETE CASCADE, other uuid NOT NULL REFERENCES contact ON DELETE CASCADE,
    by_login text NOT NULL, at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (one, other), CHECK (one < other));
CREATE INDEX ON two_people (other);
