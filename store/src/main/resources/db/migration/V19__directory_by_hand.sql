-- version: grows with each change, so that nobody overwrites what they did not see. by_hand: the columns that somebody set here, which no
-- file changes any more. archived_at: out of the lists, and still matched: what a customer of old writes is not lost.
ALTER TABLE account ADD version bigint NOT NULL DEFAULT 1, ADD by_hand text[] NOT NULL DEFAULT '{}', ADD archived_at timestamptz,
    ADD changed_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE contact ADD version bigint NOT NULL DEFAULT 1, ADD by_hand text[] NOT NULL DEFAULT '{}', ADD archived_at timestamptz,
    ADD changed_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE lead ADD version bigint NOT NULL DEFAULT 1, ADD by_hand text[] NOT NULL DEFAULT '{}', ADD archived_at timestamptz,
    ADD changed_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE opportunity ADD version bigint NOT NULL DEFAULT 1, ADD by_hand text[] NOT NULL DEFAULT '{}', ADD archived_at timestamptz,
    ADD changed_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE person ADD version bigint NOT NULL DEFAULT 1, ADD changed_at timestamptz NOT NULL DEFAULT now();
CREATE INDEX account_owner ON account (owner);
CREATE INDEX opportunity_owner ON opportunity (owner);
-- How the columns of a file from elsewhere were matched to ours, by its header.
CREATE TABLE import_mapping (
    kind text NOT NULL, header text NOT NULL, columns text NOT NULL, used_at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (kind, header));
-- A file that somebody looks at before it is taken. lines: its own, as CSV, packed (gzip). mapping: of each of its columns the name of
-- ours. state: looked-at | running | done | failed.
CREATE TABLE import_file (
    id uuid PRIMARY KEY, sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, kind text NOT NULL, name text NOT NULL,
    heading text[] NOT NULL, lines bytea NOT NULL, count int NOT NULL, mapping text[] NOT NULL, state text NOT NULL DEFAULT 'looked-at',
    says text NOT NULL DEFAULT '', at timestamptz NOT NULL DEFAULT now());
