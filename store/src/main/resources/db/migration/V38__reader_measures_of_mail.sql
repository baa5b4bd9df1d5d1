-- The two measures that readers had no view of yet.

-- When the company works: a row for each day of the week (ISO 8601, Monday is 1) on which it does, as jandrel.core.measures.WorkingHours has it.
CREATE VIEW working_day AS
SELECT h.hours ->> 'zone' AS zone, h.hours -> 'holidays' AS holidays,
    array_position(ARRAY['MONDAY', 'TUESDAY', 'WEDNESDAY', 'THURSDAY', 'FRIDAY', 'SATURDAY', 'SUNDAY'], d.key) AS day,
    (d.value ->> 'from')::interval AS begins,
    CASE (d.value ->> 'until')::time WHEN '00:00' THEN interval '24 hours' ELSE (d.value ->> 'until')::interval END AS ends
FROM (SELECT coalesce((SELECT w.hours FROM working_hours w), '{"zone": "UTC", "days": {"MONDAY": {"from": "09:00", "until": "17:00"},
    "TUESDAY": {"from": "09:00", "until": "17:00"}, "WEDNESDAY": {"from": "09:00", "until": "17:00"},
    "THURSDAY": {"from": "09:00", "until": "17:00"}, "FRIDAY": {"from": "09:00", "until": "17:00"}}, "holidays": []}')::jsonb AS hours) h
CROSS JOIN LATERAL jsonb_each(h.hours -> 'days') d
-- what else Java calls a zone (+02:00, GMT+2) means the opposite here
WHERE h.hours ->> 'zone' !~ '^(Z$|(UTC|GMT|UT)?[+-])';

-- Mail of accounts. before: who wrote last, ours where that is more than thirty days ago, as if somebody had answered. ahead: how many follow
-- that are not theirs; what comes right before one of those has the same number.
CREATE VIEW read_mail AS
SELECT m.*, CASE WHEN lag(m.at) OVER earlier >= m.at - interval '720 hours' THEN lag(m.wrote) OVER earlier ELSE 'ours' END AS before,
    count(*) FILTER (WHERE m.wrote <> 'theirs') OVER (PARTITION BY m.account ORDER BY m.at DESC, m.activity DESC) AS ahead
FROM (SELECT a.id AS activity, a.face AS copy, a.at, coalesce(a.authors[1], a.owners[1]) AS owner, l.record AS account,
        CASE WHEN NOT a.reads THEN 'hidden' WHEN a.authors = '{}' THEN 'theirs' ELSE 'ours' END AS wrote
    FROM read_activity a JOIN link l ON l.activity = a.id AND l.kind = 'account' AND l.evidence <> 'PART' AND NOT l.blind
    WHERE a.kind = 'mail') m
WINDOW earlier AS (PARTITION BY m.account ORDER BY m.at, m.activity);

CREATE VIEW jandrel_1.reply_times WITH (security_barrier) AS
SELECT w.activity, w.copy, w.account, w.at, w.owner, w.known,
    CASE WHEN NOT w.known THEN NULL WHEN w.answered_at IS NOT NULL THEN 'answered' WHEN w.at + interval '720 hours' < now() THEN 'no-answer'
        ELSE 'waiting' END AS state,
    w.answered_at,
    CASE WHEN w.answered_at IS NOT NULL THEN (
        SELECT floor(1000 * coalesce(sum(extract(epoch FROM least(w.answered_at, o.ends) - greatest(w.at, o.begins))), 0)) / 3600000
        FROM working_day d
        CROSS JOIN LATERAL generate_series((w.at AT TIME ZONE d.zone)::date::timestamp, w.answered_at AT TIME ZONE d.zone, interval '1 day') x(day)
        CROSS JOIN LATERAL (SELECT (x.day + d.begins) AT TIME ZONE d.zone AS begins, (x.day + d.ends) AT TIME ZONE d.zone AS ends) o
        WHERE extract(isodow FROM x.day) = d.day AND NOT d.holidays ? to_char(x.day, 'YYYY-MM-DD') AND w.answered_at > o.begins AND w.at < o.ends
    )::double precision END AS hours
FROM (SELECT k.activity, k.copy, k.account, k.at, k.known, CASE WHEN k.known AND k.inside THEN k.next_owner ELSE k.owner END AS owner,
        CASE WHEN k.known AND k.inside THEN k.next_at END AS answered_at
    FROM (SELECT t.*, t.wrote = 'theirs' AND t.before = 'ours' AND NOT (t.inside AND t.next = 'hidden') AS known
        FROM (SELECT a.*, a.next <> 'theirs' AND a.next_at <= a.at + interval '720 hours' AND a.next_at <= now() AS inside
            FROM (SELECT m.*, first_value(m.wrote) OVER next AS next, first_value(m.at) OVER next AS next_at,
                    first_value(m.owner) OVER next AS next_owner
                FROM read_mail m WINDOW next AS (PARTITION BY m.account, m.ahead ORDER BY m.at DESC, m.activity DESC)) a) t
        WHERE t.wrote <> 'ours' AND t.before <> 'theirs') k) w
CROSS JOIN reading me
WHERE me.overseen IS NULL OR w.owner = ANY(me.overseen);

CREATE VIEW jandrel_1.capture_days WITH (security_barrier) AS
SELECT s.at::date AS day, s.person, nullif(p.team, '') AS team, v.rules::jsonb ->> 'name' AS policy, s.verdict,
    CASE WHEN s.verdict IN ('left-out', 'unreadable') THEN replace(lower(s.rule), '_', '-') END AS reason, count(*) AS decisions
FROM sighting s CROSS JOIN reading me JOIN person p ON p.id = s.person LEFT JOIN cover k ON k.person = s.person
LEFT JOIN policy x ON x.id = k.policy LEFT JOIN policy_version v ON v.policy = x.id AND v.version = x.version
WHERE me.overseen IS NULL OR s.person = ANY(me.overseen)
GROUP BY 1, 2, 3, 4, 5, 6;

COMMENT ON VIEW jandrel_1.reply_times IS 'Measure: what customers wrote that asks for an answer, and how long that took. One account at a time.';
COMMENT ON COLUMN jandrel_1.reply_times.activity IS 'Of activities.';
COMMENT ON COLUMN jandrel_1.reply_times.copy IS 'As in activities.';
COMMENT ON COLUMN jandrel_1.reply_times.account IS 'Of accounts.';
COMMENT ON COLUMN jandrel_1.reply_times.at IS 'When it was sent.';
COMMENT ON COLUMN jandrel_1.reply_times.owner IS 'Who answered; without an answer, the first of ours who got it.';
COMMENT ON COLUMN jandrel_1.reply_times.known IS 'false where it, what came before it or what may be its answer may not be read: then all that follows is NULL.';
COMMENT ON COLUMN jandrel_1.reply_times.state IS 'answered, waiting (for less than thirty days) or no-answer.';
COMMENT ON COLUMN jandrel_1.reply_times.answered_at IS 'When ours next wrote to the account.';
COMMENT ON COLUMN jandrel_1.reply_times.hours IS 'Between the two, of the company''s working hours.';
COMMENT ON VIEW jandrel_1.capture_days IS 'Measure: what became of all that was seen, of those whom the reader oversees. Days are those of the session''s time zone.';
COMMENT ON COLUMN jandrel_1.capture_days.day IS 'On which it was sent, or begins.';
COMMENT ON COLUMN jandrel_1.capture_days.person IS 'Whose source showed it.';
COMMENT ON COLUMN jandrel_1.capture_days.team IS 'Today''s; NULL for none.';
COMMENT ON COLUMN jandrel_1.capture_days.policy IS 'The name of the one that they are under today; NULL for none.';
COMMENT ON COLUMN jandrel_1.capture_days.verdict IS 'logged, waiting, left-out or unreadable.';
COMMENT ON COLUMN jandrel_1.capture_days.reason IS 'By which rule, of what was left out or could not be read.';
COMMENT ON COLUMN jandrel_1.capture_days.decisions IS 'How many.';

-- who reads already reads these, too
DO $$ DECLARE login text; BEGIN
    FOR login IN SELECT r.login FROM reader r JOIN pg_roles p ON p.rolname = r.login LOOP
        EXECUTE format('GRANT SELECT ON jandrel_1.reply_times, jandrel_1.capture_days TO %I', login);
    END LOOP;
END $$;
