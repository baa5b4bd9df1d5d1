package jandrel.service.people;

import jandrel.api.ReaderApi.NewReader;
import jandrel.api.ReaderApi.ReaderAccess;
import jandrel.api.ReaderApi.ReaderInfo;
import jandrel.api.ReaderApi.ReaderSetup;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import jandrel.store.people.People;
import jandrel.store.people.ReaderLogins;
import jandrel.store.people.ReaderLogins.Reader;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.jdbc.autoconfigure.DataSourceProperties;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What an administrator does with the logins by which other programs read. */
@RestController
class ReaderCalls {
    private static final int LONGEST = 200;
    private static final int MOST_TEAMS = 100;
    private static final String TAKEN = "42710";
    private final ReaderLogins readers;
    private final ReaderEnding ending;
    private final People people;
    private final Journal journal;
    private final DataSourceProperties database;
    private final Clock clock;

    ReaderCalls(
            ReaderLogins readers,
            ReaderEnding ending,
            People people,
            Journal journal,
            DataSourceProperties database,
            Clock clock) {
        this.readers = readers;
        this.ending = ending;
        this.people = people;
        this.journal = journal;
        this.database = database;
        this.clock = clock;
    }

    @GetMapping("/api/readers")
    @Transactional(readOnly = true)
    public List<ReaderInfo> all() {
        List<Reader> all = readers.all();
        Set<String> known =
                Set.copyOf(readers.existing(all.stream().map(Reader::login).toArray(String[]::new)));
        return all.stream().map(r -> shown(r, known.contains(r.login()))).toList();
    }

    private static ReaderInfo shown(Reader r, boolean works) {
        return new ReaderInfo(
                r.login(),
                r.name(),
                r.role().toLowerCase(Locale.ROOT),
                r.personName(),
                r.teams() == null ? null : List.of(r.teams()),
                r.addedBy(),
                r.addedAt(),
                works);
    }

    @GetMapping("/api/readers/setup")
    ReaderSetup setup() {
        return new ReaderSetup(readers.isPrepared(), script());
    }

    private static String script() {
        try (InputStream in = Objects.requireNonNull(ReaderLogins.class.getResourceAsStream("/db/readers.sql"))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException unreadable) {
            throw new UncheckedIOException(unreadable);
        }
    }

    /** All of it or nothing: PostgreSQL makes roles in transactions, too. */
    @PostMapping("/api/readers")
    @ResponseStatus(HttpStatus.CREATED)
    @Transactional
    public ReaderAccess add(@RequestBody NewReader wanted, @AuthenticationPrincipal SignedIn me) {
        Reader reader = reader(wanted, me.login());
        if (!readers.isPrepared()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "PostgreSQL is not prepared for readers",
                    "A superuser has to run the script of “jandrel readers setup” in this service's database, once.");
        }
        if (readers.add(reader) == 0) {
            throw taken(reader.login(), "There is a reader of that login or name");
        }
        ReaderPassword password = ReaderPassword.fresh();
        try {
            readers.keep(reader.login(), password.verifier(), ReaderWatch.USUAL_SECONDS);
        } catch (DataAccessException refused) {
            if (refused.getRootCause() instanceof SQLException cause && TAKEN.equals(cause.getSQLState())) {
                throw taken(reader.login(), "PostgreSQL has another role of that name");
            }
            throw refused;
        }
        readers.grant(reader.login());
        journal.add(me.login(), "added", ReaderEnding.thing(reader), null, ReaderEnding.written(reader));
        return new ReaderAccess(reader.login(), password.password(), address(reader.login()), ReaderLogins.SCHEMA);
    }

    private static Refusal taken(String login, String title) {
        return Refusal.of(HttpStatus.CONFLICT, title, "Choose another login than “" + login + "”, or another name.");
    }

    private Reader reader(NewReader wanted, String by) {
        String login = Objects.requireNonNullElse(wanted.login(), "").strip();
        if (!login.matches(ReaderLogins.LOGIN) || login.startsWith("pg_")) {
            throw Refusal.bad(
                    "“" + login + "” cannot be a login of PostgreSQL's",
                    "At most 41 small letters, digits and _, a letter first, and not pg_.");
        }
        String name = Objects.requireNonNullElse(wanted.name(), "").strip();
        if (name.length() > LONGEST) {
            throw Refusal.bad("The name is too long", "At most " + LONGEST + " characters.");
        }
        Role role = SignInCalls.role(Objects.requireNonNullElse(wanted.role(), ""));
        People.@Nullable Person person = person(wanted.person());
        if (role == Role.REP && person == null) {
            throw Refusal.bad("A rep reads as themselves", "Say as whom.");
        }
        return new Reader(
                login,
                name.isEmpty() ? login : name,
                role.name(),
                person == null ? null : person.id(),
                person == null ? "" : person.name(),
                teams(role, wanted.teams()),
                by,
                clock.instant());
    }

    private People.@Nullable Person person(@Nullable String key) {
        return key == null || key.isBlank()
                ? null
                : people.find(key.strip())
                        .orElseThrow(() -> Refusal.bad(
                                "Nobody has the key or address “" + key + "”", "“jandrel coverage” lists everybody."));
    }

    private String @Nullable [] teams(Role role, @Nullable List<String> wanted) {
        if (wanted == null) {
            return null;
        }
        if (!role.isLimitable() || wanted.isEmpty() || wanted.size() > MOST_TEAMS) {
            throw Refusal.bad("These teams cannot be a limit", "Managers and auditors can be limited to some teams.");
        }
        Set<String> known = people.all().stream().map(People.Person::team).collect(Collectors.toSet());
        wanted.stream().filter(t -> !known.contains(t)).findFirst().ifPresent(t -> {
            throw Refusal.bad("There is no team “" + t + "”", "Teams are those of the people in the directory.");
        });
        return wanted.stream().distinct().toArray(String[]::new);
    }

    @DeleteMapping("/api/readers/{login}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    @Transactional
    public void end(@PathVariable("login") String login, @AuthenticationPrincipal SignedIn me) {
        Reader reader = readers.all().stream()
                .filter(r -> r.login().equals(login))
                .findFirst()
                .orElseThrow(() -> Refusal.notFound("reader"));
        ending.end(reader, me.login());
    }

    /** Where the service itself finds its database; others may have to go another way. */
    private String address(String login) {
        String url = Objects.requireNonNullElse(database.getUrl(), "");
        String rest = url.startsWith("jdbc:postgresql:") ? url.substring("jdbc:postgresql:".length()) : "";
        int options = rest.indexOf('?');
        String place = options < 0 ? rest : rest.substring(0, options);
        return "postgresql://" + login + "@" + (place.startsWith("//") ? place.substring(2) : place);
    }
}
