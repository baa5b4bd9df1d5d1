-- How somebody wants to be told of what concerns them. minutes_before: -1 for never.
CREATE TABLE notice_choice (
    sign_in uuid PRIMARY KEY REFERENCES sign_in ON DELETE CASCADE, rings boolean NOT NULL, mails boolean NOT NULL,
    minutes_before int NOT NULL, beside_calendar boolean NOT NULL, daily boolean NOT NULL, daily_at text NOT NULL, zone text NOT NULL);
-- What became of a notice. That there is one follows from its cause alone; key names that.
CREATE TABLE notice_state (
    sign_in uuid NOT NULL REFERENCES sign_in ON DELETE CASCADE, key text NOT NULL, read_at timestamptz, snoozed_until timestamptz,
    mailed_at timestamptz, touched_at timestamptz NOT NULL, PRIMARY KEY (sign_in, key));
CREATE INDEX notice_state_old ON notice_state (touched_at);
