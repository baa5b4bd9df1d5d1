-- A second factor beside the password with a password: a code that changes every half minute (RFC 6238). secret: encrypted. last_step: the half minute of
-- the last code that was taken; none up to it is taken again.
CREATE TABLE second_factor (
    sign_in uuid PRIMARY KEY REFERENCES sign_in ON DELETE CASCADE, secret bytea NOT NULL, confirmed_at timestamptz, last_step bigint NOT NULL DEFAULT 0);

-- Each is good once, when the phone is lost; kept as hashes alone.
CREATE TABLE recovery_code (
    sign_in uuid NOT NULL REFERENCES second_factor ON DELETE CASCADE, hash bytea NOT NULL, PRIMARY KEY (sign_in, hash));

ALTER TABLE password_rule ADD administrators_need_codes boolean NOT NULL DEFAULT false;
