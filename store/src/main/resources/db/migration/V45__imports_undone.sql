-- What files from elsewhere changed, so that each can be undone as a whole. came: the records that came with it, each of which it left as
-- its first version.
CREATE TABLE import_taken (
    id uuid PRIMARY KEY,
    kind text NOT NULL,
    name text NOT NULL,
    by_name text NOT NULL,
    at timestamptz NOT NULL,
    added int NOT NULL DEFAULT 0,
    updated int NOT NULL DEFAULT 0,
    came uuid[] NOT NULL DEFAULT '{}',
    undone_at timestamptz,
    undone_by text
);
CREATE INDEX ON import_taken (at);
-- The records that it changed. was: the version before. version: the one that the file left, or to which a later file was undone. before:
-- the record as it was; NULL for one that came, where a later file was undone.
CREATE TABLE import_change (
    import uuid NOT NULL REFERENCES import_taken ON DELETE CASCADE,
    record uuid NOT NULL,
    was bigint NOT NULL,
    version bigint NOT NULL,
    before jsonb COMPRESSION lz4,
    PRIMARY KEY (import, record)
);
-- The contact that this one is now, if there is any.
CREATE FUNCTION contact_now(c uuid) RETURNS uuid LANGUAGE sql STABLE AS $$
    SELECT coalesce((SELECT id FROM contact WHERE id = c), (SELECT contact FROM merged_contact WHERE was = c))
$$;
