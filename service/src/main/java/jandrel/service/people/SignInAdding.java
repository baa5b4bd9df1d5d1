package jandrel.service.people;

import jandrel.api.SessionApi.NewSignIn;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import jandrel.store.people.People;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Adds a sign-in that is nobody's of the company, a program's, or a person's whose first password somebody else gives. */
@Component
class SignInAdding {
    private static final int LONGEST_NAME = 200;
    private final SignIns signIns;
    private final SignInLetters letters;
    private final Passwords passwords;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    SignInAdding(
            SignIns signIns,
            SignInLetters letters,
            Passwords passwords,
            Journal journal,
            TransactionTemplate transactions,
            Clock clock) {
        this.signIns = signIns;
        this.letters = letters;
        this.passwords = passwords;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    SignIn add(NewSignIn wanted, Role role, Optional<People.Person> whose, String by) {
        if (!wanted.login().matches("[A-Za-z0-9][A-Za-z0-9._@+-]{0,99}")) {
            throw Refusal.bad("The login does not do", "It needs letters, digits or . _ @ + - and no spaces.");
        }
        if (wanted.name().isBlank() || wanted.name().length() > LONGEST_NAME) {
            throw Refusal.bad("The name does not do", "It needs 200 characters at most, and one at least.");
        }
        SignIn bare = SignIn.fresh(
                wanted.login(),
                wanted.name(),
                role.name(),
                whose.map(People.Person::id).orElse(null),
                clock.instant());
        SignIn signIn = Boolean.TRUE.equals(wanted.program())
                ? program(bare, wanted)
                : bare.withPassword(firstPassword(wanted), whose.isPresent());
        transactions.executeWithoutResult(t -> {
            signIns.alone();
            if (signIn.person() != null && signIns.ofPerson(signIn.person()).isPresent()) {
                throw Refusal.of(
                        HttpStatus.CONFLICT,
                        "This person already has a sign-in",
                        "One sign-in per person, because it can read everything that person may read. One that has ended comes back by an"
                                + " invitation.");
            }
            if (signIns.add(signIn) == 0) {
                throw Refusal.of(HttpStatus.CONFLICT, "The login is taken", "Choose another one.");
            }
            journal.add(
                    by,
                    "added",
                    SignInByMail.thing(signIn),
                    null,
                    Map.of(
                            "role", role.name().toLowerCase(Locale.ROOT),
                            "person", whose.map(p -> p.key() + " " + p.name()).orElse("")));
            letters.added(signIn, by);
        });
        return signIn;
    }

    private static SignIn program(SignIn bare, NewSignIn wanted) {
        if (bare.person() != null
                || !Objects.requireNonNullElse(wanted.password(), "").isEmpty()) {
            throw Refusal.bad(
                    "A program is nobody and has no password",
                    "Leave person and password out; create tokens for it then.");
        }
        return bare.asProgram();
    }

    private String firstPassword(NewSignIn wanted) {
        String password = Objects.requireNonNullElse(wanted.password(), "");
        if (password.isEmpty()) {
            throw Refusal.bad(
                    "The password is missing",
                    "People of the company are invited by mail without one; everybody else needs a first one.");
        }
        passwords.check(password, wanted.login(), wanted.name());
        return passwords.hash(password);
    }
}
