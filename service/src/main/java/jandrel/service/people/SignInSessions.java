package jandrel.service.people;

import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.Token;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import jandrel.store.people.SignInTokens;
import jandrel.store.people.SignInTokens.TokenRow;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The sessions and tokens of a sign-in. */
@Component
class SignInSessions {
    static final String MADE = "made";
    private static final int LONGEST_DAYS = 366;
    private static final int LONGEST_LABEL = 100;
    private static final int MOST = 50;
    private final SignInTokens rows;
    private final Tokens tokens;
    private final Journal journal;
    private final Clock clock;

    SignInSessions(SignInTokens rows, Tokens tokens, Journal journal, Clock clock) {
        this.rows = rows;
        this.tokens = tokens;
        this.journal = journal;
        this.clock = clock;
    }

    /** @param current the one that this is asked for with */
    List<SessionInfo> of(UUID signIn, @Nullable UUID current) {
        return rows.of(signIn, clock.instant()).stream()
                .map(t -> new SessionInfo(
                        t.id(),
                        t.kind(),
                        t.label(),
                        t.scopes() == null ? List.of() : List.of(t.scopes()),
                        t.createdAt(),
                        t.expiresAt(),
                        t.lastUsed(),
                        t.place(),
                        t.id().equals(current)))
                .toList();
    }

    /** @return it, seen this once */
    @Transactional
    public Token make(SignIn signIn, NewToken wanted, String by) {
        String label = wanted.label().strip();
        if (label.isEmpty() || label.length() > LONGEST_LABEL) {
            throw Refusal.bad("The token needs a label", "Say what it is for, in 100 characters at most.");
        }
        if (wanted.days() < 1 || wanted.days() > LONGEST_DAYS) {
            throw Refusal.bad("A token lasts 1 to 366 days", "Choose days in between.");
        }
        String[] scopes = wanted.scopes().stream()
                .map(word -> TokenScope.called(word)
                        .orElseThrow(() -> Refusal.bad(
                                "There is no scope “" + word + "”",
                                "Scopes are "
                                        + Arrays.stream(TokenScope.values())
                                                .map(TokenScope::word)
                                                .collect(Collectors.joining(", "))
                                        + ".")))
                .distinct()
                .map(TokenScope::word)
                .toArray(String[]::new);
        if (scopes.length == 0) {
            throw Refusal.bad("The token needs a scope", "Without one it could be used for nothing.");
        }
        Instant now = clock.instant();
        if (rows.of(signIn.id(), now).stream()
                        .filter(t -> t.kind().equals(MADE))
                        .count()
                >= MOST) {
            throw Refusal.bad("There are 50 tokens already", "End those that are not used.");
        }
        TokenRow row = new TokenRow(
                UUID.randomUUID(),
                signIn.id(),
                MADE,
                label,
                scopes,
                now,
                now.plus(Duration.ofDays(wanted.days())),
                null,
                "");
        String token = tokens.added(row);
        journal.add(
                by,
                "created a token of",
                SignInByMail.thing(signIn),
                null,
                Map.of(
                        "label", label,
                        "scopes", List.of(scopes),
                        "until", row.expiresAt().toString()));
        return new Token(token, row.expiresAt(), "");
    }

    @Transactional
    public void end(SignIn signIn, UUID token, String by) {
        if (rows.removeOne(signIn.id(), token) == 0) {
            throw Refusal.notFound("session");
        }
        journal.add(by, "ended a session of", SignInByMail.thing(signIn), null, null);
    }
}
