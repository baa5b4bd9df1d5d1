-- Lets Jandrel give reporting programs logins of PostgreSQL's own. Run by a superuser in Jandrel's database, once for each version that brings
-- another of this; nothing is lost by running it again. What it grants to the service is what these functions do, and nothing else: no
-- right to make roles. See docs/readers.md.
SET client_min_messages = warning;
BEGIN;
DO $setup$
DECLARE
    service name := (SELECT pg_get_userbyid(datdba) FROM pg_database WHERE datname = current_database());
    f regprocedure;
BEGIN
    IF NOT (SELECT rolsuper FROM pg_roles WHERE rolname = current_user) THEN
        RAISE EXCEPTION 'a superuser of PostgreSQL has to run this';
    END IF;
    -- of those who are not named, nobody comes in, makes temporary tables, or uses what is in public
    EXECUTE format('REVOKE ALL ON DATABASE %I FROM PUBLIC', current_database());
    EXECUTE format('GRANT ALL ON DATABASE %I TO %I', current_database(), service);
    EXECUTE 'REVOKE ALL ON SCHEMA public FROM PUBLIC';
    EXECUTE format('GRANT ALL ON SCHEMA public TO %I', service);
    -- the locks that the service works with are not for others to hold; large objects and messages in the log of changes are writes
    FOR f IN SELECT p.oid FROM pg_proc p WHERE p.pronamespace = 'pg_catalog'::regnamespace
        AND (p.proname ~ '^pg_(try_)?advisory_' OR p.proname ~ '^(lo_|lo(read|write)$)' OR p.proname IN ('pg_notify', 'pg_logical_emit_message'))
    LOOP
        EXECUTE format('REVOKE EXECUTE ON FUNCTION %s FROM PUBLIC', f);
        EXECUTE format('GRANT EXECUTE ON FUNCTION %s TO %I', f, service);
    END LOOP;

    CREATE SCHEMA IF NOT EXISTS jandrel_logins;

    -- what marks a login as one of this database's readers: no other role is touched
    CREATE OR REPLACE FUNCTION jandrel_logins.is_reader(login name) RETURNS boolean LANGUAGE sql STABLE SET search_path = pg_catalog, pg_temp AS $$
        SELECT coalesce(shobj_description((SELECT oid FROM pg_roles WHERE rolname = login), 'pg_authid')
            = 'reads Jandrel in ' || current_database(), false)
    $$;

    -- verifier: of the password, as RFC 5803 writes it, so that the password itself never comes here
    CREATE OR REPLACE FUNCTION jandrel_logins.keep(login text, verifier text, seconds int) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, pg_temp AS $$
    BEGIN
        IF login !~ '^[a-z][a-z0-9_]{0,40}$' OR login ~ '^pg_' OR seconds NOT BETWEEN 1 AND 86400
            OR verifier !~ '^SCRAM-SHA-256[$][0-9]{4,7}:[A-Za-z0-9+/]{16,64}={0,2}[$][A-Za-z0-9+/]{43}=:[A-Za-z0-9+/]{43}=$' THEN
            RAISE EXCEPTION 'no such login can be made' USING ERRCODE = 'invalid_parameter_value';
        END IF;
        IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = login) THEN
            EXECUTE format('CREATE ROLE %I NOSUPERUSER NOCREATEDB NOCREATEROLE NOINHERIT NOREPLICATION NOBYPASSRLS CONNECTION LIMIT 8', login);
            EXECUTE format('COMMENT ON ROLE %I IS %L', login, 'reads Jandrel in ' || current_database());
        ELSIF NOT jandrel_logins.is_reader(login) THEN
            RAISE EXCEPTION 'there is another role of that name' USING ERRCODE = 'duplicate_object';
        END IF;
        EXECUTE format('ALTER ROLE %I LOGIN PASSWORD %L', login, verifier);
        EXECUTE format('GRANT CONNECT ON DATABASE %I TO %I', current_database(), login);
        EXECUTE format('ALTER ROLE %I SET default_transaction_read_only = on', login);
        EXECUTE format('ALTER ROLE %I SET statement_timeout = %L', login, seconds || 's');
        EXECUTE format('ALTER ROLE %I SET idle_in_transaction_session_timeout = %L', login, '60s');
        EXECUTE format('ALTER ROLE %I SET lock_timeout = %L', login, '5s');
        EXECUTE format('ALTER ROLE %I SET work_mem = %L', login, '32MB');
        EXECUTE format('ALTER ROLE %I SET max_parallel_workers_per_gather = 0', login);
        EXECUTE format('ALTER ROLE %I SET jit = off', login);
        EXECUTE format('ALTER ROLE %I SET search_path = jandrel_1', login);
        -- that one a login cannot set otherwise
        EXECUTE format('ALTER ROLE %I SET temp_file_limit = %L', login, '1GB');
    END $$;

    CREATE OR REPLACE FUNCTION jandrel_logins.remove(login text) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, pg_temp AS $$
    BEGIN
        IF NOT jandrel_logins.is_reader(login) THEN
            RETURN;
        END IF;
        EXECUTE format('ALTER ROLE %I NOLOGIN', login);
        PERFORM pg_terminate_backend(pid) FROM pg_stat_activity WHERE usename = login;
        EXECUTE format('DROP OWNED BY %I', login);
        EXECUTE format('DROP ROLE %I', login);
    END $$;

    -- ends what readers have been at for longer, as a session may set its own limits otherwise
    CREATE OR REPLACE FUNCTION jandrel_logins.end_longer_than(seconds int) RETURNS int LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, pg_temp AS $$
        SELECT count(pg_terminate_backend(pid))::int FROM pg_stat_activity
        WHERE datname = current_database() AND xact_start < clock_timestamp() - make_interval(secs => seconds)
            AND usename IN (SELECT rolname FROM pg_roles WHERE rolcanlogin AND NOT rolsuper) AND jandrel_logins.is_reader(usename)
    $$;

    REVOKE ALL ON SCHEMA jandrel_logins FROM PUBLIC;
    EXECUTE format('GRANT USAGE ON SCHEMA jandrel_logins TO %I', service);
    FOR f IN SELECT p.oid FROM pg_proc p WHERE p.pronamespace = 'jandrel_logins'::regnamespace LOOP
        EXECUTE format('REVOKE ALL ON FUNCTION %s FROM PUBLIC', f);
        EXECUTE format('GRANT EXECUTE ON FUNCTION %s TO %I', f, service);
    END LOOP;
END $setup$;
COMMIT;
