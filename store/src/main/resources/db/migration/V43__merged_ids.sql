-- The id that a contact or lead had before it became a part of another, as of accounts: who has its address finds the one that it became.
-- NULL for merges of before.
ALTER TABLE merged_contact ADD was uuid UNIQUE;
ALTER TABLE merged_lead ADD was uuid UNIQUE;
