-- Grows with every change of what is captured from a connection: a look that began before one records nothing more.
ALTER TABLE connection ADD COLUMN generation bigint NOT NULL DEFAULT 0;
-- Whether it is to be looked at once more, as soon as the look under way has ended, on whichever node that is.
ALTER TABLE connection ADD COLUMN look_again boolean NOT NULL DEFAULT false;
CREATE INDEX ON connection (id) WHERE look_again;
CREATE INDEX ON sighting (rule) WHERE facts IS NULL;
CREATE INDEX sighting_person ON sighting (person, at DESC, id DESC);
