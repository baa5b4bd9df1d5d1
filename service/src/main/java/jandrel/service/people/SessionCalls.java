package jandrel.service.people;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.Token;
import jandrel.api.SessionApi.Whoami;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Cookies;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import jandrel.store.journal.Journal;
import jandrel.store.people.People;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out: with a cookie for the console, with a bearer token for the client. */
@RestController
class SessionCalls {
    private static final Duration SESSION = Duration.ofHours(12);
    private static final Duration TOKEN = Duration.ofDays(90);
    private static final int SHORTEST_PASSWORD = 10;
    private final Tokens tokens;
    private final SignIns signIns;
    private final People people;
    private final PasswordEncoder passwords;
    private final Settings settings;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final CsrfTokenRepository csrfTokens;
    private final ApplicationEventPublisher events;

    SessionCalls(
            Tokens tokens,
            SignIns signIns,
            People people,
            PasswordEncoder passwords,
            Settings settings,
            Journal journal,
            TransactionTemplate transactions,
            CsrfTokenRepository csrfTokens,
            ApplicationEventPublisher events) {
        this.events = events;
        this.csrfTokens = csrfTokens;
        this.journal = journal;
        this.transactions = transactions;
        this.tokens = tokens;
        this.signIns = signIns;
        this.people = people;
        this.passwords = passwords;
        this.settings = settings;
    }

    /** Also hands out the CSRF token, by asking for it. */
    @GetMapping("/api/session")
    Whoami whoami(@AuthenticationPrincipal @Nullable SignedIn me, @Parameter(hidden = true) CsrfToken csrf) {
        csrf.getToken();
        if (me == null) {
            throw Refusal.of(HttpStatus.UNAUTHORIZED, "You are not signed in", "Sign in, then try again.");
        }
        return shown(me);
    }

    @PostMapping("/api/session")
    Whoami signIn(@RequestBody Credentials given, HttpServletRequest request, HttpServletResponse response) {
        Tokens.Given token = tokens.give(request.getRemoteAddr(), given.login(), given.password(), "console", SESSION);
        // what somebody may have planted before is worth nothing after
        csrfTokens.saveToken(csrfTokens.generateToken(request), request, response);
        response.addHeader(HttpHeaders.SET_COOKIE, cookie(token.token(), SESSION));
        return shown(token.who());
    }

    @DeleteMapping("/api/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request, HttpServletResponse response) {
        TokenFilter.token(request).ifPresent(tokens::takeBack);
        response.addHeader(HttpHeaders.SET_COOKIE, cookie("", Duration.ZERO));
    }

    @PostMapping("/api/tokens")
    Token token(@RequestBody Credentials given, HttpServletRequest request) {
        String label = given.label() == null ? "" : given.label();
        Tokens.Given token = tokens.give(request.getRemoteAddr(), given.login(), given.password(), label, TOKEN);
        return new Token(token.token(), token.expiresAt());
    }

    @DeleteMapping("/api/tokens/current")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeBack(HttpServletRequest request) {
        TokenFilter.token(request).ifPresent(tokens::takeBack);
    }

    @GetMapping("/api/sign-ins")
    List<Whoami> all() {
        return signIns.all().stream()
                .map(s -> new Whoami(s.login(), s.name(), s.role().toLowerCase(Locale.ROOT), s.person()))
                .toList();
    }

    @PostMapping("/api/sign-ins")
    @ResponseStatus(HttpStatus.CREATED)
    Whoami add(@RequestBody NewSignIn wanted, @AuthenticationPrincipal SignedIn me) {
        Role role = Arrays.stream(Role.values())
                .filter(r -> r.name().equalsIgnoreCase(wanted.role()))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "There is no role “" + wanted.role() + "”",
                        "Roles are administrator, manager, rep and auditor."));
        if (wanted.password().length() < SHORTEST_PASSWORD
                || Tokens.shortEnough(wanted.password()).isEmpty()) {
            throw Refusal.bad("The password does not do", "It needs 10 characters at least, and 72 bytes at most.");
        }
        if (!wanted.login().matches("[A-Za-z0-9][A-Za-z0-9._@+-]{0,99}")) {
            throw Refusal.bad("The login does not do", "It needs letters, digits or . _ @ + - and no spaces.");
        }
        SignIn signIn = new SignIn(
                UUID.randomUUID(),
                wanted.login(),
                wanted.name(),
                String.valueOf(passwords.encode(wanted.password())),
                role.name(),
                person(wanted.person()),
                0,
                null,
                "");
        Optional<People.Person> whose = Optional.ofNullable(signIn.person()).flatMap(people::one);
        transactions.executeWithoutResult(t -> {
            signIns.alone();
            if (signIn.person() != null && signIns.hasOne(signIn.person())) {
                throw Refusal.of(
                        HttpStatus.CONFLICT,
                        "This person already has a sign-in",
                        "One sign-in per person, because it can read everything that person may read.");
            }
            if (signIns.add(signIn) == 0) {
                throw Refusal.of(HttpStatus.CONFLICT, "The login is taken", "Choose another one.");
            }
            journal.add(
                    me.login(),
                    "added",
                    new Thing("sign-in", signIn.id().toString(), signIn.login()),
                    null,
                    Map.of(
                            "role", role.name().toLowerCase(Locale.ROOT),
                            "person", whose.map(p -> p.key() + " " + p.name()).orElse("")));
            whose.filter(p -> p.addresses().length > 0)
                    .ifPresent(p -> events.publishEvent(
                            new SignInAdded(p.id(), p.name(), p.addresses()[0], signIn.login(), me.login())));
        });
        return new Whoami(signIn.login(), signIn.name(), role.name().toLowerCase(Locale.ROOT), signIn.person());
    }

    private @Nullable UUID person(@Nullable String key) {
        if (key == null || key.isBlank()) {
            return null;
        }
        return people.find(key.strip())
                .map(People.Person::id)
                .orElseThrow(
                        () -> Refusal.bad("Nobody has the key or address “" + key + "”", "Import the people first."));
    }

    private String cookie(String value, Duration life) {
        return Cookies.cookie(settings, TokenFilter.COOKIE, value, life)
                .sameSite("Strict")
                .path("/")
                .build()
                .toString();
    }

    private static Whoami shown(SignedIn me) {
        return new Whoami(me.login(), me.name(), me.role().name().toLowerCase(Locale.ROOT), me.person());
    }
}
