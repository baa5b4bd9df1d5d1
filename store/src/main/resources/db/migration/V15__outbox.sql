-- Everything that goes out waits here until it is delivered. kind: CALENDAR, INVITATION, KEYWORD or NOTICE. subject: what it is about;
-- one entry for each. generation: grows with every change that is to go out. payload: what is sent, where that does not follow from
-- the subject.
CREATE TABLE outbox (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, kind text NOT NULL, target text NOT NULL, subject uuid NOT NULL,
    generation bigint NOT NULL DEFAULT 1, payload text NOT NULL DEFAULT '', created_at timestamptz NOT NULL DEFAULT now(),
    due_at timestamptz NOT NULL DEFAULT now(), leased_until timestamptz, attempts int NOT NULL DEFAULT 0,
    trouble text NOT NULL DEFAULT '', UNIQUE (kind, subject));
CREATE INDEX ON outbox (kind, target, id);
CREATE INDEX ON outbox (kind, due_at);

INSERT INTO outbox (kind, target, subject, created_at, attempts, trouble)
SELECT 'CALENDAR', owner::text, id, changed_at, CASE WHEN trouble = '' THEN 0 ELSE 1 END, trouble FROM plan
WHERE owed AND out AND NOT parted ORDER BY plan.changed_at, plan.id;
INSERT INTO outbox (kind, target, subject, created_at, due_at, attempts)
SELECT 'INVITATION', id::text, id, changed_at, tell_at, tell_failures FROM plan WHERE to_tell ORDER BY plan.changed_at, plan.id;
INSERT INTO outbox (kind, target, subject) SELECT 'KEYWORD', source::text, id FROM sighting WHERE tagged = false;

-- Plain names. A managed meeting is one that was made or changed here; it is detached once one side let go of it.
ALTER TABLE plan RENAME TO managed_meeting;
ALTER TABLE managed_meeting RENAME COLUMN parted TO detached;
ALTER TABLE managed_meeting DROP COLUMN owed, DROP COLUMN trouble, DROP COLUMN to_tell, DROP COLUMN tell_at, DROP COLUMN tell_failures;
ALTER TABLE conflict RENAME COLUMN plan TO meeting;
ALTER TABLE asked RENAME TO invitation;
ALTER TABLE invitation RENAME COLUMN plan TO meeting;
ALTER TABLE told RENAME TO meeting_outcome;
ALTER TABLE sighting DROP COLUMN tagged;
ALTER TABLE connection RENAME COLUMN told_at TO notified_at;

-- A mass change that waits for an answer: how many of how many vanished, and at which positions (the first five hundred).
ALTER TABLE source ADD held_count int NOT NULL DEFAULT 0, ADD held_known int NOT NULL DEFAULT 0, ADD held_positions text[] NOT NULL DEFAULT '{}';
UPDATE source SET held_count = split_part(split_part(held, E'\n', 1), ' of ', 1)::int,
    held_known = split_part(split_part(held, E'\n', 1), ' of ', 2)::int,
    held_positions = coalesce((string_to_array(held, E'\n'))[2:], '{}')
WHERE held ~ '^[0-9]{1,9} of [0-9]{1,9}(\n|$)';
ALTER TABLE source DROP COLUMN held;

-- What the last sync run that brought something did to a calendar.
CREATE TABLE calendar_run (
    source int PRIMARY KEY REFERENCES source ON DELETE CASCADE, read int NOT NULL, gone int NOT NULL, sent int NOT NULL,
    received int NOT NULL, merged int NOT NULL, refused int NOT NULL);
INSERT INTO calendar_run SELECT id, m[1]::int, m[2]::int, m[3]::int, m[4]::int, m[5]::int, m[6]::int FROM (
    SELECT id, regexp_match(news,
        '^read (\d{1,9}), gone (\d{1,9}), sent (\d{1,9}), received (\d{1,9}), merged (\d{1,9}), refused (\d{1,9})$') AS m FROM source) s
WHERE m IS NOT NULL;
ALTER TABLE source DROP COLUMN news;
