-- How long mail took from its arrival to its timeline: so many messages a day (UTC) within so many seconds, each in the least that fits.
CREATE TABLE lateness (day date NOT NULL, seconds int NOT NULL, messages bigint NOT NULL, PRIMARY KEY (day, seconds));
