package jandrel.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Logins of PostgreSQL's own, by which other programs read what somebody may read. */
public final class ReaderApi {
    private ReaderApi() {}

    /**
     * One of them.
     *
     * @param login what it signs in with at PostgreSQL
     * @param name what it is for
     * @param role administrator, manager, rep or auditor
     * @param personName whom it reads as; empty for nobody
     * @param teams that its decisions and figures are limited to; null for no limit
     * @param works whether PostgreSQL knows the login
     */
    public record ReaderInfo(
            String login,
            String name,
            String role,
            String personName,
            @Nullable List<String> teams,
            String addedBy,
            Instant addedAt,
            boolean works) {}

    /**
     * @param login what it signs in with: small letters, digits and _, a letter first
     * @param name what it is for; null for the login
     * @param person key or address of the person whom it reads as; null for nobody
     * @param teams that its decisions and figures are limited to; null for no limit
     */
    public record NewReader(
            String login,
            @Nullable String name,
            String role,
            @Nullable String person,
            @Nullable List<String> teams) {}

    /**
     * How to sign in with it.
     *
     * @param password shown this once
     * @param database as PostgreSQL's own programs take it, without the password (RFC 3986)
     * @param schema what it reads
     */
    public record ReaderAccess(String login, String password, String database, String schema) {}

    /**
     * What makes readers possible.
     *
     * @param prepared whether a superuser of PostgreSQL has run the script
     * @param script what is to be run, in this service's database
     */
    public record ReaderSetup(boolean prepared, String script) {}
}
