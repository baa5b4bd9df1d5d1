-- The teams whose people stand in the lists of a manager or an auditor; NULL: everybody.
ALTER TABLE sign_in ADD teams text[];

-- How much of something somebody has had on a day, so that nobody is written to, or writes, without end.
CREATE TABLE quota (what text NOT NULL, whose uuid NOT NULL, day date NOT NULL, n int NOT NULL, PRIMARY KEY (what, whose));
