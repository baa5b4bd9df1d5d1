-- What a contact has beyond the directory's columns, and those columns as they were when the two were last brought together (JSON).
CREATE TABLE contact_details (
    contact uuid PRIMARY KEY REFERENCES contact ON DELETE CASCADE, details text NOT NULL, columns text NOT NULL);
-- A card of somebody's address book, and what became of it. contact: whose it is; no reference, as a card outlives a contact that is
-- removed. name, details, speaks: of a card that a person is to settle, and nothing of any other. tag: of its state when it was read
-- last; empty once it has gone. base, sending: as for meetings (JSON). undone: whether what came of it is being taken back.
CREATE TABLE card (
    id uuid PRIMARY KEY, source int NOT NULL REFERENCES source ON DELETE CASCADE, href text NOT NULL, tag text NOT NULL,
    standing text NOT NULL, why text NOT NULL, contact uuid, name text NOT NULL DEFAULT '', details text, speaks text,
    base text, sending text, detached boolean NOT NULL DEFAULT false, made_here boolean NOT NULL DEFAULT false,
    made_contact boolean NOT NULL DEFAULT false, undone boolean NOT NULL DEFAULT false, version bigint NOT NULL DEFAULT 1,
    since timestamptz NOT NULL DEFAULT now(), UNIQUE (source, href));
CREATE INDEX card_contact ON card (contact) WHERE contact IS NOT NULL;
CREATE INDEX card_open ON card (source, standing) WHERE standing IN ('OPEN', 'NEW');
-- How an address book is exchanged. rules: under which its cards were sorted. granted: how many new contacts and cards somebody has
-- seen and let begin. creates, writes: how many wait for that, since asked_at. planned_at: when it was last looked whom to put into it.
-- exclusions: which there were when its cards were last sorted.
CREATE TABLE book (
    source int PRIMARY KEY REFERENCES source ON DELETE CASCADE, rules text NOT NULL DEFAULT '', granted int NOT NULL DEFAULT 0,
    creates int NOT NULL DEFAULT 0, writes int NOT NULL DEFAULT 0, asked_at timestamptz, planned_at timestamptz,
    exclusions text NOT NULL DEFAULT '');
-- What one side of a contact lost to the other; lost: all of the losing side (JSON).
CREATE TABLE card_conflict (
    id uuid PRIMARY KEY, card uuid NOT NULL REFERENCES card ON DELETE CASCADE, contact uuid, at timestamptz NOT NULL DEFAULT now(),
    field text, here_won boolean NOT NULL, here text NOT NULL, book text NOT NULL, lost text, brought_back_by text,
    brought_back_at timestamptz);
CREATE INDEX ON card_conflict (at);
CREATE INDEX ON card_conflict (card);
-- Categories whose cards are nobody else's business; until their owner says otherwise, what is usually called so.
ALTER TABLE connection ADD private_categories text[] NOT NULL DEFAULT '{family,friends,personal,private}';
CREATE INDEX contact_changed ON contact (changed_at);
CREATE INDEX account_called ON account (lower(name));

-- Whatever changes a contact, its cards are to be written: said in the same transaction.
CREATE FUNCTION cards_pending(contacts uuid[]) RETURNS void LANGUAGE sql AS $$
    INSERT INTO outbox (kind, target, subject)
    SELECT 'CARD', c.source::text, c.id FROM card c WHERE c.contact = ANY(contacts) AND c.standing = 'TIED' AND NOT c.detached ORDER BY c.id
    ON CONFLICT (kind, subject) DO UPDATE SET generation = outbox.generation + 1, due_at = now(), attempts = 0, trouble = ''
$$;
CREATE FUNCTION contact_changed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    PERFORM cards_pending(ARRAY(SELECT id FROM changed));
    RETURN NULL;
END $$;
CREATE FUNCTION contact_part_changed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    PERFORM cards_pending(ARRAY(SELECT DISTINCT contact FROM changed));
    RETURN NULL;
END $$;
CREATE FUNCTION account_renamed() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    PERFORM cards_pending(ARRAY(SELECT c.id FROM contact c JOIN changed n ON n.id = c.account JOIN was o ON o.id = n.id WHERE o.name <> n.name));
    RETURN NULL;
END $$;
CREATE TRIGGER contact_changed AFTER UPDATE ON contact REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION contact_changed();
CREATE TRIGGER contact_removed AFTER DELETE ON contact REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION contact_changed();
CREATE TRIGGER address_given AFTER INSERT ON contact_address REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION contact_part_changed();
CREATE TRIGGER address_taken AFTER DELETE ON contact_address REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION contact_part_changed();
CREATE TRIGGER phone_given AFTER INSERT ON contact_phone REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION contact_part_changed();
CREATE TRIGGER phone_taken AFTER DELETE ON contact_phone REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION contact_part_changed();
CREATE TRIGGER account_renamed AFTER UPDATE ON account REFERENCING OLD TABLE AS was NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION account_renamed();
