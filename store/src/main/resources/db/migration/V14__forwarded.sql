-- What was forwarded is found by its author's address, too: deciding it again writes its keys anew.
INSERT INTO reconsider SELECT id FROM sighting WHERE facts LIKE '%"forwarded":{"from":%' ON CONFLICT DO NOTHING;
