-- Opportunities and accounts that a policy made, as contacts and leads.
ALTER TABLE opportunity ADD made_by text NOT NULL DEFAULT '';
ALTER TABLE account ADD made_by text NOT NULL DEFAULT '';

-- What a policy had a meeting do, one row a meeting. did: opened | joined | leads | nothing | waits (until tomorrow, as
-- enough was made today) | undone. seen: a digest of what that rests on,
-- where nothing was done; when it changes, the meeting is looked at again.
CREATE TABLE meeting_opening (
    item uuid PRIMARY KEY, policy uuid NOT NULL, did text NOT NULL CHECK (did IN ('opened', 'joined', 'leads', 'nothing', 'waits', 'undone')),
    opportunity uuid, deed uuid, why text NOT NULL DEFAULT '', seen text NOT NULL DEFAULT '', at timestamptz NOT NULL DEFAULT now());
CREATE INDEX ON meeting_opening (opportunity) WHERE opportunity IS NOT NULL;
CREATE INDEX ON meeting_opening (deed) WHERE deed IS NOT NULL;
CREATE INDEX ON meeting_opening (policy, at) WHERE did IN ('opened', 'leads');
-- Accounts of which somebody took back what was opened by itself: their ids, or their domains.
CREATE TABLE opening_not_again (key text PRIMARY KEY);
CREATE INDEX sighting_meetings ON sighting (at) WHERE kind = 'meeting' AND verdict IN ('logged', 'waiting');
