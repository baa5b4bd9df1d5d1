ALTER TABLE account ADD above uuid REFERENCES account;
CREATE INDEX ON account (above) WHERE above IS NOT NULL;
-- Somebody who may become a contact.
CREATE TABLE lead (
    id uuid PRIMARY KEY, key text NOT NULL UNIQUE, name text NOT NULL, company text NOT NULL DEFAULT '', owner uuid REFERENCES person);
CREATE INDEX lead_name ON lead USING gin (name gin_trgm_ops);
CREATE TABLE lead_address (
    address text NOT NULL, lead uuid NOT NULL REFERENCES lead ON DELETE CASCADE, PRIMARY KEY (address, lead));
CREATE INDEX ON lead_address (lead);
-- Where a contact was before. until: the first day on which they no longer were.
CREATE TABLE contact_stay (
    contact uuid NOT NULL REFERENCES contact ON DELETE CASCADE, account uuid NOT NULL REFERENCES account, until date NOT NULL,
    PRIMARY KEY (contact, until));
CREATE INDEX ON contact_stay (account);
CREATE TABLE opportunity_contact (
    opportunity uuid NOT NULL REFERENCES opportunity ON DELETE CASCADE, contact uuid NOT NULL REFERENCES contact ON DELETE CASCADE,
    PRIMARY KEY (opportunity, contact));
-- A person's own choice of a record for an item.
CREATE TABLE pin (
    item uuid NOT NULL, record uuid NOT NULL, kind text NOT NULL, by_name text NOT NULL, at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (item, record));
-- A lead is matched wherever a contact is.
UPDATE policy_version SET rules = jsonb_set(rules::jsonb, '{ties,kinds}', (rules::jsonb #> '{ties,kinds}') || '["LEAD"]'::jsonb)::text
WHERE rules::jsonb #> '{ties,kinds}' ? 'CONTACT' AND NOT rules::jsonb #> '{ties,kinds}' ? 'LEAD';
