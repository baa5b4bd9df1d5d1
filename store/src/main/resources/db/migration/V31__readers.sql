-- Logins of PostgreSQL by which reporting programs read: who each one reads as. Its password is PostgreSQL's affair.
CREATE TABLE reader (
    login text PRIMARY KEY, name text NOT NULL UNIQUE, role text NOT NULL CHECK (role IN ('ADMINISTRATOR', 'MANAGER', 'REP', 'AUDITOR')),
    person uuid REFERENCES person ON DELETE CASCADE, teams text[], added_by text NOT NULL, added_at timestamptz NOT NULL DEFAULT now());

-- What nodes tell each other by. Everybody who is let in could listen to a channel, or speak on it, if they knew its name.
CREATE TABLE news_channel (name text NOT NULL);
INSERT INTO news_channel VALUES ('jandrel_' || replace(gen_random_uuid()::text, '-', ''));

-- Who asks, as jandrel.core.visibility.Viewer has it: one row for a reader, none for anybody else. reads: whether anything in full. ids: all
-- that stands for them among readers. overseen: whose decisions and figures they get; NULL: everybody's.
CREATE VIEW reading AS
SELECT coalesce(r.person, '00000000-0000-0000-0000-000000000000') AS me, r.role <> 'AUDITOR' AS reads,
    array_remove(ARRAY[coalesce(r.person, '00000000-0000-0000-0000-000000000000'), CASE WHEN p.team <> '' THEN
        -- a name's UUID by MD5 (RFC 9562, section 5.3, without a namespace)
        overlay(overlay(md5(E'team\n' || p.team) PLACING '3' FROM 13)
            PLACING translate(substr(md5(E'team\n' || p.team), 17, 1), '0123456789abcdef', '89ab89ab89ab89ab') FROM 17)::uuid END], NULL) AS ids,
    CASE WHEN r.role = 'REP' THEN array_remove(ARRAY[r.person], NULL)
        WHEN r.role IN ('MANAGER', 'AUDITOR') AND r.teams IS NOT NULL
        THEN ARRAY(SELECT o.id FROM person o WHERE o.team = ANY(r.teams) OR o.id = r.person) END AS overseen
FROM reader r LEFT JOIN person p ON p.id = r.person WHERE r.login = session_user;

-- The one face of each activity that a reader gets, as TimelineMapper.FACE has it, and whether they read it in full.
CREATE VIEW read_activity AS
SELECT a.id, a.face, a.item, a.content, a.kind, a.at, a.ends, a.all_day, a.facts, a.subject, a.trail, a.owners, a.mine || a.elsewhere AS brought,
    a.authors, (SELECT reads FROM reading) AND (a.readers IS NULL OR a.readers && (SELECT ids FROM reading)) AS reads
FROM activity a
WHERE EXISTS (SELECT FROM reading) AND (a.faces = 1 OR a.mine && (SELECT ids FROM reading)
    OR NOT a.elsewhere && (SELECT ids FROM reading) AND CASE WHEN a.face = 0
        THEN a.readers IS NULL OR a.readers && (SELECT ids FROM reading) OR NOT (a.rivals IS NULL OR a.rivals && (SELECT ids FROM reading))
        ELSE (a.readers IS NULL OR a.readers && (SELECT ids FROM reading))
            AND NOT (a.rivals IS NULL OR a.rivals && (SELECT ids FROM reading)) END);

-- How a meeting stands at this moment, as jandrel.core.timeline.Standing has it; NULL for what the reader may not know.
CREATE VIEW read_meeting AS
SELECT a.id, a.face, a.item, a.at, a.ends, a.owners[1] AS owner, f.sort, CASE WHEN a.reads THEN
    CASE WHEN f.state = 'CANCELLED' THEN 'cancelled' WHEN t.state IS NOT NULL THEN t.state
        WHEN position('"rule":"DECLINED_BY_ALL"' IN a.trail) > 0 THEN 'declined' WHEN coalesce(a.ends, a.at) > now() THEN 'planned'
        WHEN position('"rule":"MISSED_BY_WORD"' IN a.trail) > 0 THEN 'missed' ELSE 'held' END END AS standing,
    CASE WHEN a.reads THEN (SELECT r.name FROM meeting_result r WHERE r.item = a.item AND (r.owners = '{}' OR r.owners && a.brought)
        ORDER BY r.id DESC LIMIT 1) END AS said
FROM read_activity a
CROSS JOIN LATERAL (SELECT a.facts::jsonb ->> 'state' AS state, coalesce(a.facts::jsonb ->> 'sort', 'MEETING') AS sort) f
LEFT JOIN LATERAL (SELECT o.state FROM meeting_outcome o WHERE o.item = a.item AND (o.owners = '{}' OR o.owners && a.brought)
    ORDER BY o.at DESC LIMIT 1) t ON true
WHERE a.kind = 'meeting';

-- Meetings and calls as they stand on accounts' timelines. tied: the opportunities on whose timelines they stand, too.
CREATE VIEW read_met AS
SELECT m.*, l.record AS account, l.at AS begins,
    ARRAY(SELECT o.record FROM link o WHERE o.activity = m.id AND o.at = l.at AND o.kind = 'opportunity') AS tied
FROM read_meeting m JOIN link l ON l.activity = m.id AND l.kind = 'account' AND NOT l.blind WHERE m.sort <> 'FOLLOW_UP';

-- How opportunities were, and what that came to.
CREATE VIEW deal_change AS
SELECT h.*, CASE WHEN h.state <> 'OPEN' THEN lower(h.state) ELSE coalesce(s.means, 'open') END AS means
FROM opportunity_history h JOIN opportunity o ON o.id = h.opportunity LEFT JOIN stage s ON s.name = h.stage WHERE h.origin <> 'removed';

-- Opportunities as they are. closed: since when won or lost as now.
CREATE VIEW deal AS
SELECT opportunity, account, owner, stage, channel, means, opened, CASE WHEN means IN ('won', 'lost') THEN turned END AS closed
FROM (SELECT c.*, max(at) FILTER (WHERE means IS DISTINCT FROM before) OVER (PARTITION BY opportunity) AS turned
      FROM (SELECT w.*, min(at) OVER (PARTITION BY opportunity) AS opened, lag(means) OVER (PARTITION BY opportunity ORDER BY at, id) AS before,
                row_number() OVER (PARTITION BY opportunity ORDER BY at DESC, id DESC) AS age
            FROM deal_change w) c) d
WHERE age = 1;

-- What counts for an opportunity, held or not.
CREATE VIEW deal_met AS
SELECT d.opportunity, m.id AS meeting, m.begins, m.standing
FROM deal d JOIN read_met m ON m.account = d.account AND (m.tied = '{}' OR d.opportunity = ANY(m.tied))
    AND m.begins::date >= d.opened::date AND (d.closed IS NULL OR m.begins <= d.closed);

-- What readers get. Whatever changes in here later, changes in a schema of another number. Each is a barrier: what a reader asks for is
-- looked at only after what they may not know is gone.
CREATE SCHEMA jandrel_1;

CREATE VIEW jandrel_1.people WITH (security_barrier) AS
SELECT id, key, name, nullif(team, '') AS team FROM person WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.accounts WITH (security_barrier) AS
SELECT a.id, a.key, a.name, a.owner, a.above AS parent,
    ARRAY(SELECT substr(d.domain, 2) FROM account_domain d WHERE d.account = a.id ORDER BY 1) AS domains, nullif(a.made_by, '') AS made_by,
    a.changed_at, a.archived_at
FROM account a WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.contacts WITH (security_barrier) AS
SELECT c.id, c.key, c.name, nullif(c.title, '') AS title, c.account,
    ARRAY(SELECT x.address FROM contact_address x WHERE x.contact = c.id ORDER BY 1) AS addresses,
    ARRAY(SELECT x.phone FROM contact_phone x WHERE x.contact = c.id ORDER BY 1) AS phones, nullif(c.made_by, '') AS made_by,
    c.changed_at, c.archived_at
FROM contact c WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.leads WITH (security_barrier) AS
SELECT d.id, d.key, d.name, nullif(d.company, '') AS company, d.owner,
    ARRAY(SELECT x.address FROM lead_address x WHERE x.lead = d.id ORDER BY 1) AS addresses, nullif(d.made_by, '') AS made_by,
    d.changed_at, d.archived_at
FROM lead d WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.opportunities WITH (security_barrier) AS
SELECT o.id, o.key, o.name, o.account, o.owner, nullif(o.stage, '') AS stage, lower(o.state) AS state, trim_scale(o.value) AS value,
    nullif(o.currency, '') AS currency, o.period, nullif(o.channel, '') AS channel, nullif(o.made_by, '') AS made_by, o.changed_at, o.archived_at
FROM opportunity o WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.opportunity_history WITH (security_barrier) AS
SELECT h.opportunity, h.at, h.noted_at, h.by_name AS changed_by, h.origin, nullif(h.stage, '') AS stage, lower(h.state) AS state,
    trim_scale(h.value) AS value, nullif(h.currency, '') AS currency, h.period, h.owner, h.account, nullif(h.channel, '') AS channel
FROM opportunity_history h WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.account_history WITH (security_barrier) AS
SELECT h.account, h.at, h.by_name AS changed_by, h.owner FROM account_history h WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.team_history WITH (security_barrier) AS
SELECT t.person, t.at, nullif(t.team, '') AS team FROM person_team t WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.stages WITH (security_barrier) AS
SELECT position, name, means FROM stage WHERE EXISTS (SELECT FROM reading);

CREATE VIEW jandrel_1.activities WITH (security_barrier) AS
SELECT a.id, a.face AS copy, a.kind, a.at, a.ends, a.all_day, CASE WHEN a.reads THEN 'full' ELSE 'outline' END AS visibility,
    CASE WHEN a.brought && ARRAY[me.me] AND NOT a.owners && ARRAY[me.me] THEN a.owners || me.me ELSE a.owners END AS people,
    CASE WHEN a.reads THEN a.subject END AS subject,
    CASE WHEN a.reads AND a.kind = 'mail' THEN CASE WHEN a.authors = '{}' THEN 'in' ELSE 'out' END END AS direction,
    CASE WHEN a.reads AND a.kind = 'meeting'
        THEN replace(lower(coalesce(a.facts::jsonb ->> 'sort', 'MEETING')), '_', '-') END AS sort,
    m.standing, nullif(m.said, '') AS result,
    CASE WHEN a.reads AND a.kind = 'meeting' THEN nullif(a.facts::jsonb ->> 'place', '') END AS place,
    CASE WHEN a.reads THEN CASE WHEN position('"rule":"CANCELLED_MARKED"' IN a.trail) > 0 THEN 'cancelled'
        WHEN position('"rule":"GONE_MARKED"' IN a.trail) > 0 THEN 'deleted' END END AS mark
FROM read_activity a CROSS JOIN reading me LEFT JOIN read_meeting m ON a.kind = 'meeting' AND m.id = a.id AND m.face = a.face;

CREATE VIEW jandrel_1.participants WITH (security_barrier) AS
SELECT a.id AS activity, a.face AS copy, replace(lower(p.part), '_', '-') AS part, p.address, nullif(p.name, '') AS name
FROM read_activity a CROSS JOIN reading me
CROSS JOIN LATERAL jsonb_to_recordset(a.facts::jsonb -> 'parties') AS p(part text, address text, name text)
-- who has a blind copy is for its sender to know; everybody else may know of their own
WHERE a.reads AND (p.part <> 'BCC' OR a.authors && ARRAY[me.me]
    OR EXISTS (SELECT FROM person_address x WHERE x.person = me.me AND x.address = p.address));

CREATE VIEW jandrel_1.texts WITH (security_barrier) AS
SELECT a.id AS activity, a.face AS copy, b.text,
    ARRAY(SELECT x ->> 'name' FROM jsonb_array_elements(b.attachments::jsonb) x WHERE x ->> 'name' <> '') AS attachments
FROM read_activity a JOIN body b ON b.item = a.item AND b.content = a.content WHERE a.reads;

CREATE VIEW jandrel_1.links WITH (security_barrier) AS
SELECT a.id AS activity, a.face AS copy, l.kind, l.record, l.at, CASE WHEN a.reads THEN lower(l.evidence) END AS evidence
FROM read_activity a CROSS JOIN reading me JOIN link l ON l.activity = a.id WHERE NOT l.blind OR a.authors && me.ids;

CREATE VIEW jandrel_1.decisions WITH (security_barrier) AS
SELECT s.id, s.kind, s.at, s.person, CASE WHEN s.own OR s.reads THEN o.label END AS source, s.verdict,
    CASE WHEN (s.own OR s.part <> 'BLIND') AND (s.reads OR s.verdict IN ('left-out', 'unreadable')) THEN replace(lower(s.rule), '_', '-') END AS rule,
    s.activity, CASE WHEN s.reads THEN s.facts::jsonb ->> 'subject' END AS subject
FROM (SELECT x.*, x.person = me.me AS own, a.id AS activity, me.reads AND CASE WHEN a.id IS NOT NULL THEN a.readers IS NULL OR a.readers && me.ids
            WHEN x.verdict <> 'waiting' THEN false
            ELSE x.person = me.me OR NOT EXISTS (SELECT FROM ruling r WHERE r.item = x.item AND NOT r.opens AND NOT r.readers && me.ids
                    AND (r.by_person = x.person OR r.by_person = ANY(x.insiders)))
                AND (x.sharing = 'EVERYONE' OR x.sharing IN ('THOSE_ON_IT', 'TEAM') AND x.insiders && me.ids
                    OR x.sharing = 'TEAM' AND x.team = ANY(me.ids)) END AS reads
      FROM sighting x CROSS JOIN reading me LEFT JOIN LATERAL (
          SELECT y.id, y.readers FROM activity y WHERE y.id = x.item AND y.item = x.item AND x.id = ANY(y.copies)
          UNION ALL SELECT y.id, y.readers FROM activity y WHERE y.id <> y.item AND y.item = x.item AND x.id = ANY(y.copies)) a ON x.verdict = 'logged'
      WHERE me.overseen IS NULL OR x.person = ANY(me.overseen)) s JOIN source o ON o.id = s.source;

CREATE VIEW jandrel_1.coverage WITH (security_barrier) AS
SELECT k.person, v.rules::jsonb ->> 'name' AS policy, k.version, k.covered, k.why
FROM cover k CROSS JOIN reading me JOIN policy_version v ON v.policy = k.policy AND v.version = k.version
WHERE me.overseen IS NULL OR k.person = ANY(me.overseen);

CREATE VIEW jandrel_1.first_meetings WITH (security_barrier) AS
SELECT m.id AS meeting, m.account, m.begins AS at, m.owner, nullif(d.channel, '') AS channel, NOT m.hides AS known,
    CASE WHEN NOT m.hides THEN m.standing END AS standing, CASE WHEN NOT m.hides THEN nullif(m.said, '') END AS result,
    CASE WHEN NOT m.hides THEN m.again END AS met_again,
    CASE WHEN NOT m.hides THEN coalesce(d.open_until >= m.begins::date, false) END AS opportunity,
    CASE WHEN NOT m.hides THEN coalesce(d.won_until >= m.begins::date, false) END AS won
FROM (SELECT f.*, bool_or(standing IS NULL) OVER (PARTITION BY account) AS hides
      FROM (SELECT x.*,
                coalesce(bool_or(standing = 'held') OVER (PARTITION BY account ORDER BY begins, id
                    ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING), false) AS met_before,
                coalesce(bool_or(standing IN ('held', 'planned')) OVER (PARTITION BY account ORDER BY begins, id
                    ROWS BETWEEN 1 FOLLOWING AND UNBOUNDED FOLLOWING), false) AS again
            FROM read_met x) f
      WHERE NOT met_before) m
CROSS JOIN reading me
LEFT JOIN (SELECT account, (array_agg(channel ORDER BY opened, opportunity))[1] AS channel,
        max(coalesce(closed, 'infinity'))::date AS open_until, max(closed) FILTER (WHERE means = 'won')::date AS won_until
    FROM deal GROUP BY account) d ON d.account = m.account
WHERE me.overseen IS NULL OR m.owner = ANY(me.overseen);

CREATE VIEW jandrel_1.second_meetings WITH (security_barrier) AS
SELECT d.opportunity, d.account, m.begins AS at, coalesce(t.owner, b.owner) AS owner, nullif(d.channel, '') AS channel, NOT m.hides AS known,
    CASE WHEN m.hides THEN NULL WHEN d.means <> 'open' THEN d.means WHEN m.ahead THEN 'meeting-ahead' ELSE 'nothing-next' END AS stands
FROM (SELECT x.*, bool_or(standing IS NULL) OVER o AS hides, coalesce(bool_or(standing = 'planned') OVER o, false) AS ahead,
            count(*) FILTER (WHERE standing = 'held') OVER (PARTITION BY opportunity ORDER BY begins, meeting) AS held
      FROM deal_met x WINDOW o AS (PARTITION BY opportunity)) m
JOIN deal d ON d.opportunity = m.opportunity CROSS JOIN reading me
LEFT JOIN LATERAL (SELECT w.id, w.owner FROM deal_change w WHERE w.opportunity = d.opportunity AND w.at <= m.begins
    ORDER BY w.at DESC, w.id DESC LIMIT 1) t ON true
LEFT JOIN LATERAL (SELECT w.owner FROM deal_change w WHERE w.opportunity = d.opportunity ORDER BY w.at, w.id LIMIT 1) b ON t.id IS NULL
WHERE (m.hides OR m.standing = 'held' AND m.held = 2) AND (me.overseen IS NULL OR d.owner = ANY(me.overseen));

CREATE VIEW jandrel_1.wins WITH (security_barrier) AS
SELECT d.opportunity, d.account, d.closed AS at, t.owner, nullif(t.channel, '') AS channel, m.meetings IS NOT NULL AS known, m.meetings,
    d.closed::date - d.opened::date AS days
FROM deal d CROSS JOIN reading me
LEFT JOIN (SELECT opportunity, CASE WHEN bool_or(standing IS NULL) THEN -1 ELSE count(*) FILTER (WHERE standing = 'held') END AS held
           FROM deal_met GROUP BY opportunity) n ON n.opportunity = d.opportunity
CROSS JOIN LATERAL (SELECT nullif(coalesce(n.held, 0), -1) AS meetings) m
CROSS JOIN LATERAL (SELECT w.owner, w.channel FROM deal_change w WHERE w.opportunity = d.opportunity AND w.at <= d.closed
    ORDER BY w.at DESC, w.id DESC LIMIT 1) t
WHERE d.means = 'won' AND (me.overseen IS NULL OR d.owner = ANY(me.overseen));

CREATE VIEW jandrel_1.stage_steps WITH (security_barrier) AS
SELECT s.opportunity, s.account, s.owner, nullif(s.stage, '') AS stage, s.means, s.at, s.until, s.until IS NOT NULL AND s.next <> 'lost' AS went_on,
    s.until::date - s.at::date AS days
FROM (SELECT m.*, lead(at) OVER o AS until, lead(means) OVER o AS next
      FROM (SELECT w.*, lag(stage) OVER b AS stage_before, lag(means IN ('won', 'lost')) OVER b AS closed_before
            FROM deal_change w WINDOW b AS (PARTITION BY opportunity ORDER BY at, id)) m
      WHERE stage_before IS DISTINCT FROM stage OR closed_before IS DISTINCT FROM (means IN ('won', 'lost'))
      WINDOW o AS (PARTITION BY opportunity ORDER BY at, id)) s
JOIN deal d ON d.opportunity = s.opportunity CROSS JOIN reading me
WHERE s.means NOT IN ('won', 'lost') AND (me.overseen IS NULL OR d.owner = ANY(me.overseen));

CREATE VIEW jandrel_1.account_touches WITH (security_barrier) AS
SELECT c.id AS account, c.owner, (SELECT max(l.at) FROM link l WHERE l.record = c.id AND NOT l.blind AND l.at <= now()) AS last_touch,
    (SELECT min(l.at) FROM link l JOIN activity a ON a.id = l.activity AND a.face = 0 WHERE l.record = c.id AND NOT l.blind AND l.at > now()
        AND a.kind = 'meeting' AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED') AS next_meeting,
    me.reads AND NOT coalesce(t.hides, false) AS known, CASE WHEN NOT t.hides THEN t.theirs END AS they_wrote,
    CASE WHEN NOT t.hides THEN t.ours END AS we_wrote, CASE WHEN NOT t.hides THEN t.met END AS met
FROM account c CROSS JOIN reading me LEFT JOIN (
    SELECT l.record, max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors <> '{}' AND a.reads) AS ours,
        max(l.at) FILTER (WHERE a.kind = 'mail' AND a.authors = '{}' AND a.reads) AS theirs,
        max(l.at) FILTER (WHERE a.kind = 'meeting' AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED' AND a.reads) AS met,
        bool_or(NOT a.reads) AS hides
    FROM link l JOIN read_activity a ON a.id = l.activity WHERE l.kind = 'account' AND l.at <= now() AND NOT l.blind GROUP BY l.record
) t ON t.record = c.id
WHERE c.archived_at IS NULL AND (me.overseen IS NULL OR c.owner = ANY(me.overseen));

CREATE VIEW jandrel_1.contact_made WITH (security_barrier) AS
SELECT a.id AS activity, a.face AS copy, a.at, coalesce(a.authors[1], a.owners[1]) AS owner, a.reads AS known,
    CASE WHEN NOT a.reads THEN NULL WHEN a.kind = 'mail' THEN CASE WHEN a.authors = '{}' THEN 'mail-in' ELSE 'mail-out' END
        ELSE 'meeting-' || m.standing END AS what,
    ARRAY(SELECT l.record FROM link l WHERE l.activity = a.id AND l.kind = 'account' AND l.evidence <> 'PART' AND NOT l.blind ORDER BY 1) AS accounts
FROM read_activity a CROSS JOIN reading me LEFT JOIN read_meeting m ON a.kind = 'meeting' AND m.id = a.id AND m.face = a.face
WHERE (a.kind = 'mail' OR m.sort <> 'FOLLOW_UP') AND (me.overseen IS NULL OR coalesce(a.authors[1], a.owners[1]) = ANY(me.overseen));

-- What each is, for those who look at them from a program.
COMMENT ON VIEW jandrel_1.people IS 'Everybody of the company.';
COMMENT ON COLUMN jandrel_1.people.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.people.key IS 'The key of the directory''s files.';
COMMENT ON COLUMN jandrel_1.people.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.people.team IS 'Today''s; NULL for none.';
COMMENT ON VIEW jandrel_1.accounts IS 'Customers, as the directory has them.';
COMMENT ON COLUMN jandrel_1.accounts.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.accounts.key IS 'The key of the directory''s files.';
COMMENT ON COLUMN jandrel_1.accounts.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.accounts.owner IS 'Of people; NULL for nobody.';
COMMENT ON COLUMN jandrel_1.accounts.parent IS 'The account above it.';
COMMENT ON COLUMN jandrel_1.accounts.domains IS 'Of its mail addresses.';
COMMENT ON COLUMN jandrel_1.accounts.made_by IS 'The policy that made it; NULL where a person or a file did.';
COMMENT ON COLUMN jandrel_1.accounts.changed_at IS 'When it was last changed.';
COMMENT ON COLUMN jandrel_1.accounts.archived_at IS 'NULL for one that is not archived.';
COMMENT ON VIEW jandrel_1.contacts IS 'People at customers.';
COMMENT ON COLUMN jandrel_1.contacts.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.contacts.key IS 'The key of the directory''s files.';
COMMENT ON COLUMN jandrel_1.contacts.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.contacts.title IS 'At the account.';
COMMENT ON COLUMN jandrel_1.contacts.account IS 'Of accounts; NULL for none.';
COMMENT ON COLUMN jandrel_1.contacts.addresses IS 'Of mail.';
COMMENT ON COLUMN jandrel_1.contacts.phones IS 'Telephone numbers.';
COMMENT ON COLUMN jandrel_1.contacts.made_by IS 'The policy that made it; NULL where a person or a file did.';
COMMENT ON COLUMN jandrel_1.contacts.changed_at IS 'When it was last changed.';
COMMENT ON COLUMN jandrel_1.contacts.archived_at IS 'NULL for one that is not archived.';
COMMENT ON VIEW jandrel_1.leads IS 'People who may become contacts.';
COMMENT ON COLUMN jandrel_1.leads.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.leads.key IS 'The key of the directory''s files.';
COMMENT ON COLUMN jandrel_1.leads.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.leads.company IS 'As somebody wrote it.';
COMMENT ON COLUMN jandrel_1.leads.owner IS 'Of people; NULL for nobody.';
COMMENT ON COLUMN jandrel_1.leads.addresses IS 'Of mail.';
COMMENT ON COLUMN jandrel_1.leads.made_by IS 'The policy that made it; NULL where a person or a file did.';
COMMENT ON COLUMN jandrel_1.leads.changed_at IS 'When it was last changed.';
COMMENT ON COLUMN jandrel_1.leads.archived_at IS 'NULL for one that is not archived.';
COMMENT ON VIEW jandrel_1.opportunities IS 'Opportunities, as they are now.';
COMMENT ON COLUMN jandrel_1.opportunities.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.opportunities.key IS 'The key of the directory''s files.';
COMMENT ON COLUMN jandrel_1.opportunities.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.opportunities.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.opportunities.owner IS 'Of people; NULL for nobody.';
COMMENT ON COLUMN jandrel_1.opportunities.stage IS 'As the company calls it; NULL for none.';
COMMENT ON COLUMN jandrel_1.opportunities.state IS 'open, won or lost.';
COMMENT ON COLUMN jandrel_1.opportunities.value IS 'As period says, in currency.';
COMMENT ON COLUMN jandrel_1.opportunities.currency IS 'As the directory has it.';
COMMENT ON COLUMN jandrel_1.opportunities.period IS 'Whether the value is once or every month.';
COMMENT ON COLUMN jandrel_1.opportunities.channel IS 'Where it came from; NULL where nobody said.';
COMMENT ON COLUMN jandrel_1.opportunities.made_by IS 'The policy that made it; NULL where a person or a file did.';
COMMENT ON COLUMN jandrel_1.opportunities.changed_at IS 'When it was last changed.';
COMMENT ON COLUMN jandrel_1.opportunities.archived_at IS 'NULL for one that is not archived.';
COMMENT ON VIEW jandrel_1.opportunity_history IS 'How every opportunity was, and since when. Rows are added and never changed.';
COMMENT ON COLUMN jandrel_1.opportunity_history.opportunity IS 'Of opportunities, or of one that was removed.';
COMMENT ON COLUMN jandrel_1.opportunity_history.at IS 'Since when it was so.';
COMMENT ON COLUMN jandrel_1.opportunity_history.noted_at IS 'When that was written down.';
COMMENT ON COLUMN jandrel_1.opportunity_history.changed_by IS 'The login, or service.';
COMMENT ON COLUMN jandrel_1.opportunity_history.origin IS 'change, file, removed or upgrade.';
COMMENT ON COLUMN jandrel_1.opportunity_history.stage IS 'As the company calls it; NULL for none.';
COMMENT ON COLUMN jandrel_1.opportunity_history.state IS 'open, won or lost.';
COMMENT ON COLUMN jandrel_1.opportunity_history.value IS 'As period says, in currency.';
COMMENT ON COLUMN jandrel_1.opportunity_history.currency IS 'As the directory has it.';
COMMENT ON COLUMN jandrel_1.opportunity_history.period IS 'Whether the value is once or every month.';
COMMENT ON COLUMN jandrel_1.opportunity_history.owner IS 'Of people; NULL for nobody.';
COMMENT ON COLUMN jandrel_1.opportunity_history.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.opportunity_history.channel IS 'Where it came from; NULL where nobody said.';
COMMENT ON VIEW jandrel_1.account_history IS 'Whose every account was, and since when.';
COMMENT ON COLUMN jandrel_1.account_history.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.account_history.at IS 'Since when.';
COMMENT ON COLUMN jandrel_1.account_history.changed_by IS 'The login, or service.';
COMMENT ON COLUMN jandrel_1.account_history.owner IS 'Of people; NULL for nobody.';
COMMENT ON VIEW jandrel_1.team_history IS 'In which team everybody was, and since when.';
COMMENT ON COLUMN jandrel_1.team_history.person IS 'Of people.';
COMMENT ON COLUMN jandrel_1.team_history.at IS 'Since when.';
COMMENT ON COLUMN jandrel_1.team_history.team IS 'NULL for none.';
COMMENT ON VIEW jandrel_1.stages IS 'The company''s own stages, in its order.';
COMMENT ON COLUMN jandrel_1.stages.position IS 'In the order, from the first.';
COMMENT ON COLUMN jandrel_1.stages.name IS 'What it is called.';
COMMENT ON COLUMN jandrel_1.stages.means IS 'What an open opportunity in it comes to: open, agreed, won or lost.';
COMMENT ON VIEW jandrel_1.activities IS 'What stands on timelines: mail and meetings. One that the reader may not read is an outline: when, what kind and whose.';
COMMENT ON COLUMN jandrel_1.activities.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.activities.copy IS '0, but for an item whose copies say different things.';
COMMENT ON COLUMN jandrel_1.activities.kind IS 'mail or meeting.';
COMMENT ON COLUMN jandrel_1.activities.at IS 'When it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.activities.ends IS 'Of a meeting.';
COMMENT ON COLUMN jandrel_1.activities.all_day IS 'Whether it has days and no times.';
COMMENT ON COLUMN jandrel_1.activities.visibility IS 'full or outline.';
COMMENT ON COLUMN jandrel_1.activities.people IS 'Of ours who take part.';
COMMENT ON COLUMN jandrel_1.activities.subject IS 'NULL in an outline.';
COMMENT ON COLUMN jandrel_1.activities.direction IS 'Of mail: in or out.';
COMMENT ON COLUMN jandrel_1.activities.sort IS 'Of a meeting: meeting, call or follow-up.';
COMMENT ON COLUMN jandrel_1.activities.standing IS 'Of a meeting at this moment: planned, held, missed, cancelled or declined.';
COMMENT ON COLUMN jandrel_1.activities.result IS 'What somebody said came of the meeting.';
COMMENT ON COLUMN jandrel_1.activities.place IS 'Of a meeting.';
COMMENT ON COLUMN jandrel_1.activities.mark IS 'cancelled or deleted, where its source says so.';
COMMENT ON VIEW jandrel_1.participants IS 'Who takes part in activities that are read in full. Who had a blind copy is for the sender to know.';
COMMENT ON COLUMN jandrel_1.participants.activity IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.participants.copy IS 'As in activities.';
COMMENT ON COLUMN jandrel_1.participants.part IS 'from, to, cc, bcc, organiser, attendee, accepted, declined and others.';
COMMENT ON COLUMN jandrel_1.participants.address IS 'Of mail.';
COMMENT ON COLUMN jandrel_1.participants.name IS 'As the item calls them.';
COMMENT ON VIEW jandrel_1.texts IS 'What was written, in activities that are read in full.';
COMMENT ON COLUMN jandrel_1.texts.activity IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.texts.copy IS 'As in activities.';
COMMENT ON COLUMN jandrel_1.texts.text IS 'As plain text.';
COMMENT ON COLUMN jandrel_1.texts.attachments IS 'Their names.';
COMMENT ON VIEW jandrel_1.links IS 'On which records'' timelines activities stand.';
COMMENT ON COLUMN jandrel_1.links.activity IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.links.copy IS 'As in activities.';
COMMENT ON COLUMN jandrel_1.links.kind IS 'account, contact, lead or opportunity.';
COMMENT ON COLUMN jandrel_1.links.record IS 'Of the view of that kind.';
COMMENT ON COLUMN jandrel_1.links.at IS 'When it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.links.evidence IS 'What ties them; NULL in an outline.';
COMMENT ON VIEW jandrel_1.decisions IS 'What was decided of each item at each source, and by which rule: of those whom the reader oversees.';
COMMENT ON COLUMN jandrel_1.decisions.id IS 'Its own; it stays the same.';
COMMENT ON COLUMN jandrel_1.decisions.kind IS 'mail, meeting or unknown.';
COMMENT ON COLUMN jandrel_1.decisions.at IS 'When it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.decisions.person IS 'Whose source showed it.';
COMMENT ON COLUMN jandrel_1.decisions.source IS 'Folder or calendar; NULL where it is neither the reader''s own nor read in full.';
COMMENT ON COLUMN jandrel_1.decisions.verdict IS 'logged, waiting, left-out or unreadable.';
COMMENT ON COLUMN jandrel_1.decisions.rule IS 'What decided; NULL where the reader may not know.';
COMMENT ON COLUMN jandrel_1.decisions.activity IS 'Of activities, if it stands on a timeline.';
COMMENT ON COLUMN jandrel_1.decisions.subject IS 'If it is kept and read in full.';
COMMENT ON VIEW jandrel_1.coverage IS 'Under which policy everybody is, of those whom the reader oversees.';
COMMENT ON COLUMN jandrel_1.coverage.person IS 'Of people.';
COMMENT ON COLUMN jandrel_1.coverage.policy IS 'Its name.';
COMMENT ON COLUMN jandrel_1.coverage.version IS 'Of the policy.';
COMMENT ON COLUMN jandrel_1.coverage.covered IS 'Whether it captures for them.';
COMMENT ON COLUMN jandrel_1.coverage.why IS 'How they came under it.';
COMMENT ON VIEW jandrel_1.first_meetings IS 'Measure: meetings and calls with accounts up to the first that was held. Days are those of the session''s time zone.';
COMMENT ON COLUMN jandrel_1.first_meetings.meeting IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.first_meetings.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.first_meetings.at IS 'When it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.first_meetings.owner IS 'The first of ours.';
COMMENT ON COLUMN jandrel_1.first_meetings.channel IS 'Of the account''s first opportunity.';
COMMENT ON COLUMN jandrel_1.first_meetings.known IS 'false where not all of the account''s first meetings may be read: then all that follows is NULL, and no figure should be made of the account.';
COMMENT ON COLUMN jandrel_1.first_meetings.standing IS 'planned, held, missed, cancelled or declined.';
COMMENT ON COLUMN jandrel_1.first_meetings.result IS 'What somebody said came of it.';
COMMENT ON COLUMN jandrel_1.first_meetings.met_again IS 'Whether the account was met, or is to be met, again.';
COMMENT ON COLUMN jandrel_1.first_meetings.opportunity IS 'Whether there was an opportunity then or later.';
COMMENT ON COLUMN jandrel_1.first_meetings.won IS 'Whether one was won then or later.';
COMMENT ON VIEW jandrel_1.second_meetings IS 'Measure: opportunities by their second meeting that was held, and how they stand now. Days are those of the session''s time zone.';
COMMENT ON COLUMN jandrel_1.second_meetings.opportunity IS 'Of opportunities.';
COMMENT ON COLUMN jandrel_1.second_meetings.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.second_meetings.at IS 'When the second was held; of one that is not known, when each meeting was.';
COMMENT ON COLUMN jandrel_1.second_meetings.owner IS 'As it was then.';
COMMENT ON COLUMN jandrel_1.second_meetings.channel IS 'Where it came from; NULL where nobody said.';
COMMENT ON COLUMN jandrel_1.second_meetings.known IS 'false where not all of its meetings may be read.';
COMMENT ON COLUMN jandrel_1.second_meetings.stands IS 'won, lost, agreed, meeting-ahead or nothing-next; NULL where not known.';
COMMENT ON VIEW jandrel_1.wins IS 'Measure: opportunities that are won, and what that took. Days are those of the session''s time zone.';
COMMENT ON COLUMN jandrel_1.wins.opportunity IS 'Of opportunities.';
COMMENT ON COLUMN jandrel_1.wins.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.wins.at IS 'Since when it is won.';
COMMENT ON COLUMN jandrel_1.wins.owner IS 'As it was then.';
COMMENT ON COLUMN jandrel_1.wins.channel IS 'As it was then.';
COMMENT ON COLUMN jandrel_1.wins.known IS 'false where not all of its meetings may be read.';
COMMENT ON COLUMN jandrel_1.wins.meetings IS 'How many were held; NULL where not known.';
COMMENT ON COLUMN jandrel_1.wins.days IS 'From when it was opened.';
COMMENT ON VIEW jandrel_1.stage_steps IS 'Measure: how long opportunities were in each stage. What is won or lost is in none. Days are those of the session''s time zone.';
COMMENT ON COLUMN jandrel_1.stage_steps.opportunity IS 'Of opportunities.';
COMMENT ON COLUMN jandrel_1.stage_steps.account IS 'As it was then.';
COMMENT ON COLUMN jandrel_1.stage_steps.owner IS 'As it was then.';
COMMENT ON COLUMN jandrel_1.stage_steps.stage IS 'As the company calls it; NULL for none.';
COMMENT ON COLUMN jandrel_1.stage_steps.means IS 'open or agreed.';
COMMENT ON COLUMN jandrel_1.stage_steps.at IS 'When it came into the stage.';
COMMENT ON COLUMN jandrel_1.stage_steps.until IS 'When it left; NULL while it is there.';
COMMENT ON COLUMN jandrel_1.stage_steps.went_on IS 'Whether it left other than by being lost.';
COMMENT ON COLUMN jandrel_1.stage_steps.days IS 'In the stage; NULL while it is there.';
COMMENT ON VIEW jandrel_1.account_touches IS 'Measure: when each account was last touched, and what comes next.';
COMMENT ON COLUMN jandrel_1.account_touches.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.account_touches.owner IS 'Of people; NULL for nobody.';
COMMENT ON COLUMN jandrel_1.account_touches.last_touch IS 'By mail or a meeting, be it one that the reader may not read.';
COMMENT ON COLUMN jandrel_1.account_touches.next_meeting IS 'When it begins; NULL for none.';
COMMENT ON COLUMN jandrel_1.account_touches.known IS 'Whether all of it may be read; if not, the rest is NULL.';
COMMENT ON COLUMN jandrel_1.account_touches.they_wrote IS 'When they last wrote.';
COMMENT ON COLUMN jandrel_1.account_touches.we_wrote IS 'When ours last wrote.';
COMMENT ON COLUMN jandrel_1.account_touches.met IS 'When a meeting last began that was not cancelled.';
COMMENT ON VIEW jandrel_1.contact_made IS 'Measure: mail and meetings, and with which accounts.';
COMMENT ON COLUMN jandrel_1.contact_made.activity IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.contact_made.copy IS 'As in activities.';
COMMENT ON COLUMN jandrel_1.contact_made.at IS 'When it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.contact_made.owner IS 'Who wrote it, or the first of ours.';
COMMENT ON COLUMN jandrel_1.contact_made.known IS 'Whether it may be read; if not, what it was is NULL.';
COMMENT ON COLUMN jandrel_1.contact_made.what IS 'mail-in, mail-out, meeting-held, meeting-missed, meeting-planned, meeting-cancelled or meeting-declined.';
COMMENT ON COLUMN jandrel_1.contact_made.accounts IS 'On whose timelines it stands, those above them aside.';
