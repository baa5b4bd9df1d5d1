-- Who is on kept items and on no record. way: IN | OUT | MEETING | BESIDE
CREATE TABLE stranger (
    sighting uuid NOT NULL, address text NOT NULL, domain text NOT NULL, name text NOT NULL, way text NOT NULL,
    PRIMARY KEY (sighting, address));
CREATE INDEX ON stranger (address);
CREATE INDEX ON stranger (domain);
INSERT INTO reconsider SELECT id FROM sighting WHERE facts IS NOT NULL AND trail ~ '(UNKNOWN_ADDRESS|FREE_MAIL|ACCOUNT_DOMAIN)'
ON CONFLICT DO NOTHING;
-- Hidden until something newer than this is seen.
CREATE TABLE stranger_hidden (address text PRIMARY KEY, until timestamptz NOT NULL, by_login text NOT NULL);
-- What was done in triage, and how to undo it.
CREATE TABLE triage_deed (
    id uuid PRIMARY KEY, at timestamptz NOT NULL DEFAULT now(), by_login text NOT NULL, says text NOT NULL, undo text NOT NULL,
    undone_at timestamptz);
CREATE INDEX ON triage_deed (at);
-- An address that somebody gave a contact here stays, whatever the directory's file says.
ALTER TABLE contact_address ADD by_hand boolean NOT NULL DEFAULT false;
-- Keys of contacts that were merged into another: the directory's file may go on naming them.
CREATE TABLE merged_contact (key text PRIMARY KEY, contact uuid NOT NULL REFERENCES contact ON DELETE CASCADE);
