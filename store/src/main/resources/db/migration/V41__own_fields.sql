-- Fields of contacts that the company made for itself; position: NULL for one that is taken off the list, whose contents are kept.
CREATE TABLE own_field (
    key text PRIMARY KEY CHECK (key ~ '^[a-z][a-z0-9_]{0,39}$'), name text NOT NULL,
    kind text NOT NULL CHECK (kind IN ('TEXT', 'NUMBER', 'DATE', 'CHOICE')), choices text[] NOT NULL DEFAULT '{}', position int);
-- What is in them, by their keys: texts, none of them empty.
ALTER TABLE contact ADD own jsonb NOT NULL DEFAULT '{}';
CREATE INDEX contact_own ON contact (id) WHERE own <> '{}';

-- Whether what is in a field of the contact that stayed came from the one that went, by what was written down of a merge.
CREATE FUNCTION given_by_merge(field text, value jsonb, deed jsonb) RETURNS boolean LANGUAGE sql IMMUTABLE AS $$
    SELECT coalesce(deed -> 'had' -> 'own' IS NOT NULL AND NOT jsonb_exists(deed -> 'had' -> 'own', field)
        AND deed -> 'contact' -> 'own' -> field = value, false)
$$;

CREATE OR REPLACE VIEW jandrel_1.contacts WITH (security_barrier) AS
SELECT c.id, c.key, c.name, nullif(c.title, '') AS title, c.account,
    ARRAY(SELECT x.address FROM contact_address x WHERE x.contact = c.id ORDER BY 1) AS addresses,
    ARRAY(SELECT x.phone FROM contact_phone x WHERE x.contact = c.id ORDER BY 1) AS phones, nullif(c.made_by, '') AS made_by,
    c.changed_at, c.archived_at,
    (SELECT coalesce(jsonb_object_agg(e.key, e.value), '{}') FROM jsonb_each(c.own) e JOIN own_field f ON f.key = e.key
     WHERE f.position IS NOT NULL) AS own_fields
FROM contact c WHERE EXISTS (SELECT FROM reading);
COMMENT ON COLUMN jandrel_1.contacts.own_fields IS 'What is in the fields that the company made for itself, by their keys: own_fields ->> ''segment''.';
