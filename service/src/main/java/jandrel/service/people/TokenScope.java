package jandrel.service.people;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** What a token may be used for that was made for a program. Whatever its sign-in may not do, it may not either. */
enum TokenScope {
    /** Asking, whatever for. */
    READ,
    /** What is captured and how: connections, servers, timelines, meetings, triage. */
    CAPTURE,
    /** Records and people: changes and files. */
    DIRECTORY,
    /** Policies, exclusions and their rehearsal. */
    POLICY,
    /** People provisioned by SCIM. */
    SCIM,
    /** Figures alone, and nothing that they are of. */
    MEASURES;

    private static final String[] NOBODYS = {
        "/api/sign-ins",
        "/api/session/",
        "/api/tokens",
        "/api/providers",
        "/api/password-rule",
        "/api/export/everything"
    };
    private static final String[] OF_DIRECTORY = {
        "/api/directory", "/api/fields", "/api/imports", "/api/records", "/api/people"
    };
    private static final String[] OF_POLICY = {
        "/api/policies",
        "/api/exclusions",
        "/api/rehearsals",
        "/api/company",
        "/api/allowed-hosts",
        "/api/stages",
        "/api/results",
        "/api/working-hours"
    };

    private static final String[] OF_MEASURES = {"/api/lateness", "/api/summary", "/api/measures"};
    /** What stands behind a figure is more than the figure: a list, or a file. */
    private static final Pattern BEHIND = Pattern.compile(".*/rows(\\..*)?");

    /** Asking for everything includes figures. */
    boolean isIn(Set<TokenScope> scopes) {
        return scopes.contains(this) || (this == MEASURES && scopes.contains(READ));
    }

    String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    static Optional<TokenScope> called(String word) {
        return Arrays.stream(values()).filter(s -> s.word().equals(word)).findFirst();
    }

    /** @return nothing where no scope will do: a program has no say in who signs in */
    static Optional<TokenScope> needed(String method, String path) {
        boolean asks = method.equals("GET") || method.equals("HEAD");
        if (asks && path.equals("/api/session")) {
            return Optional.of(READ);
        }
        if (path.equals("/api/session") || begins(path, NOBODYS)) {
            return Optional.empty();
        }
        if (path.startsWith("/scim/")) {
            return Optional.of(SCIM);
        }
        if (asks) {
            boolean figures = begins(path, OF_MEASURES) && !BEHIND.matcher(path).matches();
            return Optional.of(figures ? MEASURES : READ);
        }
        return Optional.of(begins(path, OF_DIRECTORY) ? DIRECTORY : begins(path, OF_POLICY) ? POLICY : CAPTURE);
    }

    private static boolean begins(String path, String... beginnings) {
        return Stream.of(beginnings).anyMatch(path::startsWith);
    }
}
