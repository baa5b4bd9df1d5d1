package jandrel.service.people;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.service.kernel.Settings;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Quotas;
import jandrel.store.people.PasswordRules;
import jandrel.store.people.People;
import jandrel.store.people.SignInLinks;
import jandrel.store.people.SignInLinks.Link;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Sign-ins by mail: an address that works once lets its person, and nobody else, choose the password. */
@Component
class SignInByMail implements DisposableBean {
    static final String INVITATION = "invitation";
    static final String RESET = "reset";
    private static final Duration INVITED = Duration.ofDays(7);
    private static final Duration FORGOTTEN = Duration.ofHours(1);
    /** Asked for again sooner, no second letter goes out. */
    private static final Duration NOT_AGAIN = Duration.ofMinutes(5);

    private static final int MOST_WAITING = 1_000;
    /** Those who ask while so many wait may ask again. */
    private final ThreadPoolExecutor aside = new ThreadPoolExecutor(
            0,
            1,
            1,
            TimeUnit.MINUTES,
            new ArrayBlockingQueue<>(MOST_WAITING),
            work -> new Thread(work, "sign-in-letters"),
            new ThreadPoolExecutor.DiscardPolicy());

    private final SignIns signIns;
    private final SignInLinks links;
    private final PasswordRules passwordRules;
    private final SignInLetters letters;
    private final Journal journal;
    private final Quotas quotas;
    private final Settings settings;
    private final TransactionTemplate transactions;
    private final Clock clock;

    SignInByMail(
            SignIns signIns,
            SignInLinks links,
            PasswordRules passwordRules,
            SignInLetters letters,
            Journal journal,
            Quotas quotas,
            Settings settings,
            TransactionTemplate transactions,
            Clock clock) {
        this.quotas = quotas;
        this.settings = settings;
        this.transactions = transactions;
        this.signIns = signIns;
        this.links = links;
        this.passwordRules = passwordRules;
        this.letters = letters;
        this.journal = journal;
        this.clock = clock;
    }

    /** @throws Refusal when no mail can go out */
    void needsMail() {
        if (!letters.canBeSent()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "No mail can go out",
                    "Invitations go by mail: set jandrel.smtp.host and jandrel.smtp.from (docs/settings.md), then start the service again.");
        }
    }

    /**
     * Adds a sign-in for somebody who has none, or had one that ended, and invites them.
     *
     * @return what stood against it; empty when the letter is on its way
     */
    @Transactional
    public String invite(People.Person person, Role role, String by) {
        signIns.alone();
        if (person.writesAs().isEmpty()) {
            return "no address";
        }
        Optional<SignIn> before = signIns.ofPerson(person.id());
        if (before.isPresent() && before.get().endedAt() == null) {
            return "has a sign-in";
        }
        SignIn fresh = before.orElseGet(
                () -> SignIn.fresh(person.writesAs(), person.name(), role.name(), person.id(), clock.instant()));
        if (before.isPresent()) {
            signIns.again(fresh.id(), role.name(), clock.instant());
        } else if (signIns.add(fresh) == 0) {
            return "somebody else has the login " + fresh.login();
        }
        send(fresh, by, role);
        return "";
    }

    /** The one before works no more. */
    @Transactional
    public void again(SignIn signIn, String by) {
        if (signIn.endedAt() != null || signIn.program() || (signIn.password() != null && !signIn.temporary())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to invite to",
                    "Somebody who has a password asks for a new one at “Sign in”; somebody who left is invited as a person.");
        }
        if (letters.address(signIn).isEmpty()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT, "There is no address to write to", "Only people of the company are invited.");
        }
        if (!mayBeWrittenTo(signIn)) {
            throw Refusal.of(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "So many letters went to them today that no more do",
                    "The last of them still works. Try again tomorrow (jandrel.quotas.sign-in-letters).");
        }
        send(signIn, by, Role.valueOf(signIn.role()));
    }

    private boolean mayBeWrittenTo(SignIn signIn) {
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        return quotas.take(
                        Quotas.SIGN_IN_LETTERS,
                        signIn.id(),
                        today,
                        settings.quotas().signInLetters())
                > 0;
    }

    private void send(SignIn signIn, String by, Role role) {
        if (passwordRules.allows(signIn.id())) {
            letters.invited(signIn, link(signIn, INVITATION, INVITED), by);
        } else {
            letters.invitedElsewhere(signIn, by);
        }
        journal.add(
                by,
                "invited",
                thing(signIn),
                null,
                Map.of("role", role.name().toLowerCase(java.util.Locale.ROOT), "person", signIn.name()));
    }

    @Transactional
    public void withdraw(SignIn signIn, String by) {
        if (links.of(signIn.id()).filter(l -> l.purpose().equals(INVITATION)).isPresent()
                && links.remove(signIn.id()) > 0) {
            journal.add(by, "withdrew the invitation of", thing(signIn), null, null);
        }
    }

    /** Nobody waits for it, so that its time tells nobody whether there is such a login. */
    void forgotten(String login) {
        aside.execute(() -> transactions.executeWithoutResult(t -> sendReset(login)));
    }

    private void sendReset(String login) {
        Instant now = clock.instant();
        signIns.find(login)
                .filter(s ->
                        s.endedAt() == null && s.password() != null && !s.program() && passwordRules.allows(s.id()))
                .filter(s -> links.of(s.id())
                        .filter(l -> l.madeAt().isAfter(now.minus(NOT_AGAIN)))
                        .isEmpty())
                .filter(s -> letters.address(s).isPresent())
                .filter(this::mayBeWrittenTo)
                .ifPresent(s -> letters.forgotten(s, link(s, RESET, FORGOTTEN)));
    }

    private String link(SignIn signIn, String purpose, Duration life) {
        String secret = Secrets.fresh();
        Instant now = clock.instant();
        links.put(Secrets.hash(secret), new Link(signIn.id(), purpose, now, now.plus(life)));
        return secret;
    }

    @Override
    public void destroy() {
        aside.shutdownNow();
    }

    /** Whose it is, while it works. */
    record Opened(Link link, SignIn signIn) {}

    Opened open(String secret) {
        return links.find(Secrets.hash(secret), clock.instant())
                .flatMap(l ->
                        signIns.one(l.signIn()).filter(s -> s.endedAt() == null).map(s -> new Opened(l, s)))
                .orElseThrow(SignInByMail::over);
    }

    /** Uses it up. */
    void use(String secret) {
        if (links.use(Secrets.hash(secret), clock.instant()) == 0) {
            throw over();
        }
    }

    private static Refusal over() {
        return Refusal.of(
                HttpStatus.GONE,
                "This address has been used, or its time is over",
                "Ask your administrator to invite you again, or choose “Forgot your password?” at “Sign in”.");
    }

    static Thing thing(SignIn signIn) {
        return new Thing("sign-in", signIn.id().toString(), signIn.login());
    }
}
