-- Guests of what is made here are asked to it. asks: whether they are. to_tell: whether somebody has yet to be told something, and from
-- when on that may be tried.
ALTER TABLE plan ADD asks boolean NOT NULL DEFAULT false, ADD to_tell boolean NOT NULL DEFAULT false,
    ADD tell_at timestamptz NOT NULL DEFAULT now(), ADD tell_failures int NOT NULL DEFAULT 0;
CREATE INDEX plan_to_tell ON plan (tell_at) WHERE to_tell;
CREATE INDEX ON plan (uid);
-- What each guest was told last (JSON), by mail or by a calendar server that schedules. since: the sequence of the first that told this
-- time of the meeting, so that an answer to an earlier one is known as such. trouble: why it did not reach them; empty when it did.
CREATE TABLE asked (
    plan uuid NOT NULL REFERENCES plan ON DELETE CASCADE, guest text NOT NULL, way text NOT NULL, details text NOT NULL,
    withdrawn boolean NOT NULL, since int NOT NULL, at timestamptz NOT NULL, trouble text NOT NULL DEFAULT '', answered_at timestamptz,
    PRIMARY KEY (plan, guest));
-- Whether the calendar server asks guests by itself (RFC 6638); unknown until it was listed.
ALTER TABLE connection ADD schedules boolean;
-- Until when a meeting takes its owner's time, whatever was decided of it: of what is left out, its time is kept. Calendars are read
-- once more for it.
ALTER TABLE sighting ADD busy_until timestamptz;
CREATE INDEX sighting_busy ON sighting (person, at) INCLUDE (busy_until) WHERE busy_until IS NOT NULL;
UPDATE source SET cursor = '', expanded_to = NULL WHERE kind = 'calendar' AND name <> 'here';
-- What somebody wants to keep in sight.
CREATE TABLE followed (
    sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, record uuid NOT NULL, kind text NOT NULL,
    at timestamptz NOT NULL DEFAULT now(), PRIMARY KEY (sign_in, record));
-- Whether somebody chose for a source themselves; else the policy says which folders are looked at.
ALTER TABLE source ADD own_choice boolean NOT NULL DEFAULT false;
UPDATE source SET own_choice = true WHERE kind = 'folder' AND chosen <> (role <> 'other');
-- Who made a record, where a policy did; empty where a person or a file did. Whom the service is to make nothing of again.
ALTER TABLE contact ADD made_by text NOT NULL DEFAULT '';
ALTER TABLE lead ADD made_by text NOT NULL DEFAULT '';
CREATE TABLE not_again (address text PRIMARY KEY);
-- Providers that ignore dots before the @: addresses there that differ by dots alone are one. With a leading @, like the other domains.
CREATE TABLE dotless_domain (domain text PRIMARY KEY);
INSERT INTO dotless_domain VALUES ('@gmail.com'), ('@googlemail.com');
CREATE FUNCTION undotted(address text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE
    RETURN replace(split_part(address, '@', 1), '.', '') || '@' || split_part(address, '@', 2);
CREATE INDEX ON contact_address (undotted(address));
CREATE INDEX ON lead_address (undotted(address));
CREATE INDEX ON person_address (undotted(address));
INSERT INTO reconsider SELECT s.id FROM sighting s
    WHERE s.keys && ARRAY(SELECT domain FROM dotless_domain) AND s.facts IS NOT NULL ON CONFLICT DO NOTHING;
