-- Accounts and leads that became a part of another, as contacts do (V6). was: the id that they had. What files say of their key is meant
-- for the one that stays.
CREATE TABLE merged_account (key text PRIMARY KEY, was uuid NOT NULL UNIQUE, account uuid NOT NULL REFERENCES account ON DELETE CASCADE);
CREATE INDEX ON merged_account (account);
CREATE TABLE merged_lead (key text PRIMARY KEY, lead uuid NOT NULL REFERENCES lead ON DELETE CASCADE);
CREATE INDEX ON merged_lead (lead);
-- The account of that id, or the one that it became a part of; null where neither is there.
CREATE FUNCTION account_now(a uuid) RETURNS uuid LANGUAGE sql STABLE AS $$
    SELECT coalesce((SELECT id FROM account WHERE id = a), (SELECT account FROM merged_account WHERE was = a))
$$;
-- Accounts whose names look like one and of which somebody said that they are two; one < other.
CREATE TABLE two_accounts (
    one uuid NOT NULL REFERENCES account ON DELETE CASCADE, other uuid NOT NULL REFERENCES account ON DELETE CASCADE,
    by_login text NOT NULL, at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (one, other), CHECK (one < other));
CREATE INDEX ON two_accounts (other);
