-- An address with a detail after a plus (RFC 5233) is found by the address without it too.
WITH more AS (
    SELECT s.id, array_agg(DISTINCT regexp_replace(k, '^([^+]+)\+[^@]*@', '\1@')) AS plain
    FROM sighting s, unnest(s.keys) k
    WHERE k ~ '^[^"@+][^@+]*\+[^@]*@' GROUP BY s.id),
known AS (
    UPDATE sighting s SET keys = s.keys || m.plain FROM more m WHERE m.id = s.id RETURNING s.id)
INSERT INTO reconsider SELECT id FROM known ON CONFLICT DO NOTHING;
