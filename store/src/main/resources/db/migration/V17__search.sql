-- What was written is found by its words. They lie under the month of their time, so that the newest are found without the rest.
-- language: of its text, one letter; x: not known; NULL: still to be indexed. said: how many characters of the text are its own and
-- not quoted. head: subject and participants, a line for each activity that has this text.
ALTER TABLE body ADD language text, ADD month int, ADD at timestamptz, ADD head text COMPRESSION lz4, ADD said int;
-- Indexing writes each row once more: what that leaves behind is soon used again.
ALTER TABLE body SET (autovacuum_vacuum_scale_factor = 0.02, autovacuum_analyze_scale_factor = 0.2);
CREATE INDEX body_to_index ON body (item) WHERE language IS NULL;

-- Its words: without accents and case, a space before and after each, none longer than 40 letters.
CREATE FUNCTION search_fold(said text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE COST 500 SET search_path = pg_catalog AS $$
    SELECT CASE WHEN w ~ '[^ ]{41}' THEN regexp_replace(w, '([^ ]{40})[^ ]+', '\1', 'g') ELSE w END
    FROM (SELECT ' ' || btrim(CASE WHEN octet_length(said) = char_length(said)
        THEN regexp_replace(lower(said COLLATE "C"), '[^a-z0-9]+', ' ', 'g')
        ELSE (regexp_replace(translate(replace(replace(replace(lower(
            regexp_replace(normalize(said, NFKD), '[\u0300-\u036f]+', '', 'g') COLLATE "und-x-icu"),
            'ß', 'ss'), 'æ', 'ae'), 'œ', 'oe'), 'øłđðıς', 'olddiσ'), '[^[:alnum:]]+', ' ', 'g')) COLLATE "C" END) || ' ' AS w) folded
$$;

-- What all forms of a folded word have in common in a language (Snowball); small words are words like any other.
CREATE FUNCTION search_stem(language text, word text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT coalesce((ts_lexize(CASE language
        WHEN 'b' THEN 'pg_catalog.norwegian_stem'::regdictionary WHEN 'd' THEN 'pg_catalog.danish_stem'
        WHEN 'e' THEN 'pg_catalog.english_stem' WHEN 'f' THEN 'pg_catalog.french_stem' WHEN 'g' THEN 'pg_catalog.german_stem'
        WHEN 'i' THEN 'pg_catalog.italian_stem' WHEN 'n' THEN 'pg_catalog.dutch_stem' WHEN 'p' THEN 'pg_catalog.portuguese_stem'
        WHEN 's' THEN 'pg_catalog.spanish_stem' WHEN 'u' THEN 'pg_catalog.finnish_stem' WHEN 'v' THEN 'pg_catalog.swedish_stem'
        ELSE 'pg_catalog.simple' END, word))[1], word)
$$;

CREATE FUNCTION search_month(at timestamptz) RETURNS int LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT greatest(0, 12 * (extract(year FROM at AT TIME ZONE 'UTC')::int - 1970) + extract(month FROM at AT TIME ZONE 'UTC')::int)
$$;

-- The names among attachments, a line each.
CREATE FUNCTION search_names(attachments text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE COST 500 SET search_path = pg_catalog AS $$
    SELECT CASE attachments WHEN '[]' THEN '' ELSE left(coalesce((SELECT string_agg(x ->> 'name', E'\n')
        FROM jsonb_array_elements(attachments::jsonb) x), ''), 20000) END
$$;

-- Its words, each by what its forms have in common, under its month and language. Folded words are lexemes as they stand.
CREATE FUNCTION search_words(month int, language text, head text, said text, attachments text) RETURNS tsvector
LANGUAGE sql IMMUTABLE PARALLEL SAFE COST 2000 SET search_path FROM CURRENT AS $$
    SELECT coalesce(string_agg(lpad(month::text, 4, '0') || language || search_stem(language, w), ' '), '')::tsvector
    FROM unnest(string_to_array(btrim(search_fold(head || E'\n' || said || E'\n' || search_names(attachments))), ' ')) w WHERE w <> ''
$$;

CREATE FUNCTION search_head(subject text, people text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT translate(left(subject, 2000), E'\n', ' ') || E'\t' || people
$$;

-- What the activities say of themselves that have this text.
CREATE FUNCTION search_facts(of_item uuid, of_content uuid, OUT at timestamptz, OUT head text) LANGUAGE sql STABLE AS $$
    SELECT coalesce(max(a.at), 'epoch'), coalesce(string_agg(DISTINCT search_head(a.subject, a.people), E'\n'), '') FROM (
        SELECT * FROM activity WHERE id = of_item AND item = id AND content = of_content
        UNION ALL SELECT * FROM activity WHERE item = of_item AND id <> item AND content = of_content) a
$$;

CREATE INDEX body_words ON body USING gin (search_words(month, language, head, left(text, said), attachments))
    WITH (gin_pending_list_limit = 1024) WHERE language IS NOT NULL;
ALTER INDEX body_words ALTER COLUMN 1 SET STATISTICS 0;
-- Which months and languages there are.
CREATE TABLE search_part (month int NOT NULL, language text NOT NULL, PRIMARY KEY (month, language));
-- What has no text is found by its subject and participants.
DROP INDEX activity_words;
ALTER TABLE activity DROP COLUMN words;
CREATE INDEX activity_without_text ON activity (at) WHERE content IS NULL;
CREATE INDEX activity_words ON activity USING gin (search_words(search_month(at), 'x', search_head(subject, people), '', '[]'))
    WHERE content IS NULL;
ALTER INDEX activity_words ALTER COLUMN 1 SET STATISTICS 0;
