-- Activities that have gone from timelines, so that who exports only what changed hears of them. One that came back is not looked at.
CREATE TABLE activity_gone (id uuid PRIMARY KEY);
CREATE FUNCTION activity_gone() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO activity_gone SELECT DISTINCT id FROM changed ON CONFLICT (id) DO UPDATE SET id = excluded.id;
    RETURN NULL;
END $$;
CREATE TRIGGER activity_gone AFTER DELETE ON activity REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION activity_gone();
