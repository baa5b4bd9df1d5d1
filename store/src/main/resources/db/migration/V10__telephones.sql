-- A contact's telephone numbers (RFC 3966, digits alone). hash: as strangers' numbers are kept. by_hand: no file takes it away.
CREATE TABLE contact_phone (
    contact uuid NOT NULL REFERENCES contact ON DELETE CASCADE, phone text NOT NULL, hash uuid NOT NULL,
    by_hand boolean NOT NULL DEFAULT false, PRIMARY KEY (contact, phone));
CREATE INDEX ON contact_phone (phone);
CREATE INDEX ON contact_phone (hash);
-- The numbers in a stranger's signature, as a keyed hash alone: the text of what waits is not kept.
CREATE TABLE stranger_phone (sighting uuid NOT NULL, phone uuid NOT NULL, PRIMARY KEY (sighting, phone));
-- The digest of the message that a stranger's own answers; and of those that ours wrote, to find it by.
ALTER TABLE stranger ADD answers text;
CREATE TABLE wrote (sighting uuid PRIMARY KEY, message text NOT NULL);
CREATE INDEX ON wrote (message);
-- What is known of mail so far is taken in once more, from its facts.
INSERT INTO reconsider SELECT id FROM sighting WHERE facts IS NOT NULL AND kind = 'mail' ON CONFLICT DO NOTHING;
