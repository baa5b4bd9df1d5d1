-- How many messages of a first read are still to be read: it begins with the newest and works backwards.
ALTER TABLE source ADD left_to_read int NOT NULL DEFAULT 0;
