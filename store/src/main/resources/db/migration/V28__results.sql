-- The company's own results of meetings, in its order. words: in a title or a category, by which a meeting says it itself.
CREATE TABLE result (position int NOT NULL, name text PRIMARY KEY, words text[] NOT NULL);
-- What somebody said came of a meeting, for the copies that they take part in. Rows are added and never changed: the newest counts, and an
-- empty name takes back what was said.
CREATE TABLE meeting_result (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY, item uuid NOT NULL, owners uuid[] NOT NULL, name text NOT NULL, by_name text NOT NULL,
    at timestamptz NOT NULL DEFAULT now());
CREATE INDEX ON meeting_result (item, id);
CREATE TRIGGER only_added BEFORE UPDATE OR DELETE ON meeting_result FOR EACH STATEMENT EXECUTE FUNCTION only_added();
