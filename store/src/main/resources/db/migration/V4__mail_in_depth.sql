-- What a person chose by hand for a message: 'count' or 'keep-out', a colon, and by what. tagged: whether its mailbox was told that
-- it is logged; false when that is owed, null when nothing is.
ALTER TABLE sighting ADD hand text NOT NULL DEFAULT '', ADD tagged boolean;
CREATE INDEX sighting_tagged ON sighting (source) WHERE tagged = false;
CREATE INDEX sighting_hand ON sighting (source) WHERE hand <> '';
-- The keywords by which a person makes a message count or keeps it out.
ALTER TABLE connection ADD count_keyword text NOT NULL DEFAULT '', ADD keep_out_keyword text NOT NULL DEFAULT '',
    ADD watched_by text NOT NULL DEFAULT '', ADD live boolean NOT NULL DEFAULT false;
-- Nodes that listen to mailboxes; one that was not seen for a while has lost what it listened to.
CREATE TABLE listener (node text PRIMARY KEY, seen_at timestamptz NOT NULL);
-- role: inbox | sent | archive | other; empty for calendars. counts: whether all that is put there counts by hand.
ALTER TABLE source ADD role text NOT NULL DEFAULT '', ADD counts boolean NOT NULL DEFAULT false;
UPDATE source SET role = label WHERE kind = 'folder';
