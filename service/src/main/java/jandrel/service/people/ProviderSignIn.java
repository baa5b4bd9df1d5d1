package jandrel.service.people;

import jandrel.core.visibility.Role;
import jandrel.service.people.SignOnRefused.Why;
import jandrel.service.people.SingleSignOn.Claimed;
import jandrel.store.journal.Journal;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.IdentityProviders.GroupRole;
import jandrel.store.people.IdentityProviders.Identity;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import jandrel.store.people.People;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Whose sign-in it is that a provider opens: the person's of the company who has the address that it vouches for. */
@Component
class ProviderSignIn {
    private final IdentityProviders providers;
    private final SignIns signIns;
    private final People people;
    private final SignInLetters letters;
    private final Journal journal;
    private final Clock clock;

    ProviderSignIn(
            IdentityProviders providers,
            SignIns signIns,
            People people,
            SignInLetters letters,
            Journal journal,
            Clock clock) {
        this.providers = providers;
        this.signIns = signIns;
        this.people = people;
        this.letters = letters;
        this.journal = journal;
        this.clock = clock;
    }

    /**
     * The first time it is added, or claimed, and tied to what the provider calls the person.
     *
     * @throws SignOnRefused when it opens nobody's
     */
    @Transactional
    public SignIn of(Claimed claimed) {
        if (claimed.email().isEmpty()) {
            throw new SignOnRefused(Why.UNVERIFIED, "it vouches for no mail address", null);
        }
        People.Person person = people.at(claimed.email())
                .orElseThrow(() -> new SignOnRefused(Why.NOBODY, "nobody in the directory has the address", null));
        IdentityProvider provider = claimed.provider();
        signIns.alone();
        Optional<Identity> known = providers.known(provider.id(), claimed.subject());
        Optional<SignIn> theirs = signIns.ofPerson(person.id());
        if (known.isPresent()
                && theirs.filter(s -> s.id().equals(known.get().signIn())).isEmpty()) {
            throw new SignOnRefused(
                    Why.TAKEN, "the account opens the sign-in of another person than has the address", null);
        }
        if (theirs.filter(s -> s.endedAt() != null).isPresent() || (theirs.isEmpty() && hasLeft(person))) {
            throw new SignOnRefused(Why.ENDED, "the sign-in has ended", null);
        }
        Optional<Role> role = role(claimed);
        SignIn signIn =
                theirs.orElseGet(() -> added(person, role.orElseGet(() -> SignInCalls.usual(person)), provider));
        if (known.isEmpty()) {
            bind(claimed, signIn);
        } else {
            providers.used(provider.id(), claimed.subject(), clock.instant());
        }
        role.filter(r -> !r.name().equals(signIn.role())).ifPresent(r -> change(signIn, r, provider));
        return signIns.one(signIn.id()).orElseThrow();
    }

    private boolean hasLeft(People.Person person) {
        LocalDate until = person.coverUntil();
        return until != null && !until.isAfter(LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC));
    }

    /** By the groups; nothing where the provider's groups have no say. */
    private Optional<Role> role(Claimed claimed) {
        List<GroupRole> roles = providers.roles(claimed.provider().id());
        if (roles.isEmpty()) {
            return Optional.empty();
        }
        String role = roles.stream()
                .filter(r -> claimed.groups().contains(r.groupName()))
                .map(r -> Role.valueOf(r.role()))
                // the one that may do most
                .min(Comparator.comparing(List.of(Role.ADMINISTRATOR, Role.MANAGER, Role.AUDITOR, Role.REP)::indexOf))
                .map(Role::name)
                .orElse(claimed.provider().otherwise());
        if (role.equals(IdentityProviderCalls.NONE)) {
            throw new SignOnRefused(Why.ROLE, "none of the person’s groups has a role", null);
        }
        return Optional.of(Role.valueOf(role));
    }

    private SignIn added(People.Person person, Role role, IdentityProvider provider) {
        SignIn fresh = SignIn.fresh(person.writesAs(), person.name(), role.name(), person.id(), clock.instant());
        if (signIns.add(fresh) == 0) {
            throw new SignOnRefused(Why.TAKEN, "another sign-in has the login " + fresh.login(), null);
        }
        journal.add(
                fresh.login(),
                "added",
                SignInByMail.thing(fresh),
                null,
                Map.of(
                        "role", role.name().toLowerCase(Locale.ROOT),
                        "person", person.key() + " " + person.name(),
                        "provider", provider.name()));
        return fresh;
    }

    private void bind(Claimed claimed, SignIn signIn) {
        IdentityProvider provider = claimed.provider();
        if (providers.bind(new Identity(provider.id(), claimed.subject(), signIn.id()), clock.instant()) == 0) {
            throw new SignOnRefused(Why.TAKEN, "another account of this provider opens the sign-in", null);
        }
        // a password that somebody else gave opens nothing any more
        signIns.noTemporary(signIn.id());
        journal.add(signIn.login(), "claimed", SignInByMail.thing(signIn), null, Map.of("provider", provider.name()));
        letters.tied(signIn, provider.name());
    }

    /** The last administrator who can sign in without it stays one, whatever a provider says. */
    private void change(SignIn signIn, Role role, IdentityProvider provider) {
        if (signIn.role().equals(Role.ADMINISTRATOR.name()) && signIns.otherAdministrators(signIn.id()) == 0) {
            return;
        }
        // groups say nothing of teams: who is limited to some stays so
        signIns.role(signIn.id(), role.name(), role.isLimitable() ? signIn.teams() : null);
        journal.add(
                provider.name(),
                "set the role of",
                SignInByMail.thing(signIn),
                signIn.role().toLowerCase(Locale.ROOT),
                role.name().toLowerCase(Locale.ROOT));
    }
}
