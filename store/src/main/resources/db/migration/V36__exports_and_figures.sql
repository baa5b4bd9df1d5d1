-- Decisions and records that have gone, as activities that have (V29). Of a decision, whose it was: that it was there is for those who list theirs.
CREATE TABLE decision_gone (id uuid PRIMARY KEY, person uuid NOT NULL);
CREATE FUNCTION decision_gone() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO decision_gone SELECT id, person FROM changed ON CONFLICT (id) DO UPDATE SET person = excluded.person;
    RETURN NULL;
END $$;
CREATE TRIGGER decision_gone AFTER DELETE ON sighting REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION decision_gone();

CREATE TABLE record_gone (id uuid PRIMARY KEY);
CREATE FUNCTION record_gone() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO record_gone SELECT id FROM changed ON CONFLICT (id) DO UPDATE SET id = excluded.id;
    RETURN NULL;
END $$;
CREATE TRIGGER account_record_gone AFTER DELETE ON account REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_gone();
CREATE TRIGGER contact_record_gone AFTER DELETE ON contact REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_gone();
CREATE TRIGGER lead_record_gone AFTER DELETE ON lead REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_gone();
CREATE TRIGGER opportunity_record_gone AFTER DELETE ON opportunity REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_gone();
-- Records that something of theirs in another table was taken from; what is put there is told by its own row.
CREATE TABLE record_touched (id uuid PRIMARY KEY);
CREATE FUNCTION record_touched() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
    EXECUTE format('INSERT INTO record_touched SELECT DISTINCT %I FROM changed ON CONFLICT (id) DO UPDATE SET id = excluded.id', TG_ARGV[0]);
    RETURN NULL;
END $$;
CREATE TRIGGER record_address_taken AFTER DELETE ON contact_address REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('contact');
CREATE TRIGGER record_address_moved AFTER UPDATE ON contact_address REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('contact');
CREATE TRIGGER record_phone_taken AFTER DELETE ON contact_phone REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('contact');
CREATE TRIGGER record_phone_moved AFTER UPDATE ON contact_phone REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('contact');
CREATE TRIGGER record_address_taken AFTER DELETE ON lead_address REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('lead');
CREATE TRIGGER record_domain_taken AFTER DELETE ON account_domain REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('account');
CREATE TRIGGER record_contact_taken AFTER DELETE ON opportunity_contact REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('opportunity');
CREATE TRIGGER record_contact_moved AFTER UPDATE ON opportunity_contact REFERENCING OLD TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION record_touched('opportunity');

-- When the company works (JSON); without a row, Monday to Friday from nine to five (UTC).
CREATE TABLE working_hours (one boolean PRIMARY KEY DEFAULT true CHECK (one), hours text NOT NULL);

-- Selections of figures that somebody kept by name. query: as in an address. told: the Monday (in its zone) for which it was sent last.
CREATE TABLE kept_figures (
    id uuid PRIMARY KEY, sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, name text NOT NULL, measure text NOT NULL, query text NOT NULL,
    zone text NOT NULL, weekly boolean NOT NULL, told date, UNIQUE (sign_in, name));
