-- What one side removed and the other keeps, until somebody says what becomes of it. removal: HERE or THERE, by the side that removed
-- it; AGREED once the card is to be removed, too; TAKEN once it was, as its contact was removed here; else empty. removal_at: since when
-- somebody is asked.
ALTER TABLE card ADD removal text NOT NULL DEFAULT '' CHECK (removal IN ('', 'HERE', 'THERE', 'AGREED', 'TAKEN')), ADD removal_at timestamptz;
CREATE INDEX card_removal ON card (source) WHERE removal <> '';

CREATE OR REPLACE FUNCTION cards_pending(contacts uuid[]) RETURNS void LANGUAGE sql AS $$
    INSERT INTO outbox (kind, target, subject)
    SELECT 'CARD', c.source::text, c.id FROM card c
    WHERE c.contact = ANY(contacts) AND c.standing = 'TIED' AND NOT c.detached AND c.removal NOT IN ('HERE', 'THERE') ORDER BY c.id
    ON CONFLICT (kind, subject) DO UPDATE SET generation = outbox.generation + 1, due_at = now(), attempts = 0, trouble = ''
$$;
-- Of whom neither side has anything any more, nobody is asked.
CREATE FUNCTION asked_no_more(contacts uuid[]) RETURNS void LANGUAGE sql AS $$
    UPDATE card SET removal = '', removal_at = NULL, version = version + 1 WHERE removal = 'THERE' AND contact = ANY(contacts)
$$;
CREATE FUNCTION contact_removed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    PERFORM asked_no_more(ARRAY(SELECT id FROM changed));
    PERFORM cards_pending(ARRAY(SELECT id FROM changed));
    RETURN NULL;
END $$;
DROP TRIGGER contact_removed ON contact;
CREATE TRIGGER contact_removed AFTER DELETE ON contact REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION contact_removed();

-- A contact that is archived is removed here. One that is brought back is exchanged again with the cards that stayed, and written anew where
-- its card was taken out; those that were left out because of it are sorted anew with the next look. By its name it comes before
-- contact_changed, which says what is to be written then.
CREATE INDEX card_archived ON card (source) WHERE why = 'ARCHIVED';
CREATE FUNCTION contact_archived() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    gone uuid[] := ARRAY(SELECT n.id FROM changed n JOIN was o ON o.id = n.id WHERE o.archived_at IS NULL AND n.archived_at IS NOT NULL);
    back uuid[] := ARRAY(SELECT n.id FROM changed n JOIN was o ON o.id = n.id WHERE o.archived_at IS NOT NULL AND n.archived_at IS NULL);
BEGIN
    IF cardinality(gone) > 0 THEN
        PERFORM asked_no_more(gone);
    END IF;
    IF cardinality(back) > 0 THEN
        UPDATE card SET detached = false, made_here = made_here OR removal = 'TAKEN', removal = '', removal_at = NULL, version = version + 1
            WHERE contact = ANY(back) AND standing = 'TIED' AND (removal IN ('HERE', 'AGREED', 'TAKEN') OR detached AND tag <> '');
        UPDATE book SET exclusions = '' WHERE source IN (SELECT source FROM card WHERE why = 'ARCHIVED');
    END IF;
    RETURN NULL;
END $$;
CREATE TRIGGER contact_archived AFTER UPDATE ON contact REFERENCING OLD TABLE AS was NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION contact_archived();

-- What was archived before archiving counted as a removal stays in books as it is.
UPDATE card SET detached = true, base = NULL, sending = NULL, version = card.version + 1 FROM contact c
    WHERE c.id = card.contact AND c.archived_at IS NOT NULL AND card.standing = 'TIED' AND NOT card.detached AND NOT card.undone;
DELETE FROM outbox x USING card c JOIN contact t ON t.id = c.contact
    WHERE x.kind = 'CARD' AND x.subject = c.id AND c.detached AND t.archived_at IS NOT NULL;

-- The name under which a policy had a book made for contacts: it is known by that even where the server calls it otherwise.
ALTER TABLE book ADD made_for text NOT NULL DEFAULT '';
