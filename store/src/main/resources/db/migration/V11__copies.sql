-- What names itself alike may be several items, and one item may say different things in different copies. id: the activity; item: what
-- its copies name themselves by (the id of the first activity of that name). face: 0 for the copy of highest standing, then the others.
-- mine: who brought a copy that says this; elsewhere: who brought one that says something else; rivals: who reads a later face (of the
-- first), or an earlier one (of the others), NULL for everyone. copies: the sightings that say this. content: their text in body.
-- text: here | wanted | gone. authors: who wrote it, and so knows of blind copies.
ALTER TABLE activity DROP CONSTRAINT activity_pkey, ADD item uuid, ADD face int NOT NULL DEFAULT 0, ADD faces int NOT NULL DEFAULT 1,
    ADD mine uuid[] NOT NULL DEFAULT '{}', ADD elsewhere uuid[] NOT NULL DEFAULT '{}', ADD rivals uuid[] DEFAULT '{}',
    ADD copies uuid[] NOT NULL DEFAULT '{}', ADD content uuid, ADD text text NOT NULL DEFAULT 'gone',
    ADD authors uuid[] NOT NULL DEFAULT '{}', ADD PRIMARY KEY (id, face);
UPDATE activity a SET item = id, mine = owners,
    copies = ARRAY(SELECT s.id FROM sighting s WHERE s.item = a.id AND s.verdict = 'logged'),
    text = coalesce((SELECT state FROM body b WHERE b.activity = a.id), 'gone'),
    content = (SELECT activity FROM body b WHERE b.activity = a.id AND b.state = 'here');
ALTER TABLE activity ALTER item SET NOT NULL;
DROP INDEX activity_meeting;
DROP INDEX activity_long_meeting;
CREATE INDEX activity_meeting ON activity (at, id) INCLUDE (ends, all_day, owners) WHERE kind = 'meeting' AND faces = 1;
CREATE INDEX activity_long_meeting ON activity (at) WHERE kind = 'meeting' AND faces = 1 AND ends - at > interval '24 hours';
CREATE INDEX activity_many_faced ON activity (at) WHERE kind = 'meeting' AND faces > 1;
CREATE INDEX activity_item ON activity (item) WHERE id <> item;
DELETE FROM body WHERE state <> 'here';
ALTER TABLE body RENAME activity TO item;
ALTER TABLE body DROP CONSTRAINT body_pkey, ADD content uuid, DROP version, DROP state;
UPDATE body SET content = item;
ALTER TABLE body ADD PRIMARY KEY (item, content);
-- What blind copies alone tie an item to is for its sender.
ALTER TABLE link ADD blind boolean NOT NULL DEFAULT false;
ALTER TABLE stranger ADD blind boolean NOT NULL DEFAULT false;
ALTER TABLE sighting ADD part text NOT NULL DEFAULT 'UNNAMED';
-- What people choose about an item holds for the copies of those who had it when they chose; of old choices, for all.
ALTER TABLE pin ADD owners uuid[] NOT NULL DEFAULT '{}';
ALTER TABLE told ADD owners uuid[] NOT NULL DEFAULT '{}', DROP CONSTRAINT told_pkey;
CREATE INDEX told_item ON told (item);
ALTER TABLE moved ADD owners uuid[] NOT NULL DEFAULT '{}';
DELETE FROM ruling WHERE by_person IS NULL;
ALTER TABLE ruling DROP CONSTRAINT ruling_pkey, ADD PRIMARY KEY (item, by_person);
ALTER TABLE plan DROP CONSTRAINT plan_item_key, ADD UNIQUE (item, owner);
INSERT INTO reconsider SELECT id FROM sighting WHERE facts IS NOT NULL ON CONFLICT DO NOTHING;
-- Trails say which kind of header it was, not what it said.
UPDATE sighting SET trail = regexp_replace(trail, '"header":"([A-Za-z-]+): ((\\.|[^"\\])*)"', '"header":"\1"')
    WHERE trail ~ '"header":"(List-Id|X-Autore[a-z]+|Auto-Submitted|List-Post|List-Unsubscribe): '
      AND trail !~ '"header":"Auto-Submitted: auto-(generated|replied|notified)"';
