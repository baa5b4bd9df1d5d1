package jandrel.service.people;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.people.CoverPeriod;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.People;
import jandrel.store.people.SecondFactors;
import jandrel.store.people.SignInAttempts;
import jandrel.store.people.SignInLinks;
import jandrel.store.people.SignInTokens;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.UUID;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Ends every way in that somebody has, all at once: sessions, tokens, links, known devices, and what others had given out for them. */
@Component
class SignInEnding {
    private final SignIns signIns;
    private final SignInTokens tokens;
    private final SignInLinks links;
    private final SignInAttempts attempts;
    private final IdentityProviders providers;
    private final SecondFactors secondFactors;
    private final CoverPeriod cover;
    private final People people;
    private final Journal journal;
    private final ApplicationEventPublisher events;
    private final Clock clock;

    SignInEnding(
            SignIns signIns,
            SignInTokens tokens,
            SignInLinks links,
            SignInAttempts attempts,
            IdentityProviders providers,
            SecondFactors secondFactors,
            CoverPeriod cover,
            People people,
            Journal journal,
            ApplicationEventPublisher events,
            Clock clock) {
        this.signIns = signIns;
        this.tokens = tokens;
        this.links = links;
        this.attempts = attempts;
        this.providers = providers;
        this.secondFactors = secondFactors;
        this.cover = cover;
        this.people = people;
        this.journal = journal;
        this.events = events;
        this.clock = clock;
    }

    /** @param by the login of who ends it */
    @Transactional
    public void end(SignIn signIn, String by) {
        if (signIns.end(signIn.id(), clock.instant()) == 0) {
            return;
        }
        tokens.removeAll(signIn.id());
        links.remove(signIn.id());
        attempts.removeDevices(signIn.id());
        providers.unbind(signIn.id());
        secondFactors.remove(signIn.id());
        events.publishEvent(new SignInEnded(signIn.id()));
        journal.add(by, "ended", new Thing("sign-in", signIn.id().toString(), signIn.login()), null, null);
    }

    /** Their cover ends today, their connections are paused, and no way in is left. */
    @Transactional
    public void left(UUID person, String by) {
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        people.one(person)
                .filter(p -> p.coverUntil() == null || p.coverUntil().isAfter(today))
                .ifPresent(p -> cover.end(person, today, by));
        signIns.ofPerson(person).ifPresent(s -> end(s, by));
        events.publishEvent(new PersonLeft(person, by));
    }
}
