package jandrel.service.people;

import jandrel.api.SessionApi.InvitePeople;
import jandrel.api.SessionApi.Invited;
import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.RoleChoice;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SessionApi.Token;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.store.journal.Journal;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.IdentityProviders.Identity;
import jandrel.store.people.PasswordRules;
import jandrel.store.people.People;
import jandrel.store.people.SignInLinks;
import jandrel.store.people.SignInLinks.Link;
import jandrel.store.people.SignInTokens;
import jandrel.store.people.SignInTokens.Held;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What an administrator does with everybody's sign-ins. */
@RestController
class SignInCalls {
    private final SignIns signIns;
    private final SignInTokens tokens;
    private final SignInLinks links;
    private final SignInSessions sessions;
    private final SignInEnding ending;
    private final SignInAdding adding;
    private final SignInByMail byMail;
    private final SecondFactorCodes secondFactors;
    private final People people;
    private final IdentityProviders providers;
    private final PasswordRules passwordRules;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;

    SignInCalls(
            SignIns signIns,
            SignInTokens tokens,
            SignInLinks links,
            SignInSessions sessions,
            SignInEnding ending,
            SignInAdding adding,
            SignInByMail byMail,
            SecondFactorCodes secondFactors,
            People people,
            IdentityProviders providers,
            PasswordRules passwordRules,
            Journal journal,
            TransactionTemplate transactions,
            Clock clock) {
        this.signIns = signIns;
        this.tokens = tokens;
        this.links = links;
        this.sessions = sessions;
        this.ending = ending;
        this.adding = adding;
        this.byMail = byMail;
        this.secondFactors = secondFactors;
        this.people = people;
        this.providers = providers;
        this.passwordRules = passwordRules;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    @GetMapping("/api/sign-ins")
    List<SignInInfo> all() {
        Instant now = clock.instant();
        Map<UUID, Link> invited = links.all().stream()
                .filter(l -> l.purpose().equals(SignInByMail.INVITATION)
                        && l.expiresAt().isAfter(now))
                .collect(Collectors.toMap(Link::signIn, Function.identity()));
        Map<UUID, Integer> held = tokens.held(now).stream().collect(Collectors.toMap(Held::signIn, Held::count));
        Map<UUID, List<String>> by = providersOf();
        return signIns.all().stream()
                .map(s ->
                        shown(s, invited.get(s.id()), held.getOrDefault(s.id(), 0), by.getOrDefault(s.id(), List.of())))
                .toList();
    }

    /** The names of those that open each sign-in. */
    private Map<UUID, List<String>> providersOf() {
        Map<UUID, String> names = providers.all().stream()
                .collect(Collectors.toMap(
                        IdentityProviders.IdentityProvider::id, IdentityProviders.IdentityProvider::name));
        return providers.identities().stream()
                .collect(Collectors.groupingBy(
                        Identity::signIn,
                        Collectors.mapping(i -> names.getOrDefault(i.provider(), ""), Collectors.toList())));
    }

    private static SignInInfo shown(SignIn s, @Nullable Link invited, int held, List<String> providers) {
        return new SignInInfo(
                s.id(),
                s.login(),
                s.name(),
                s.role().toLowerCase(Locale.ROOT),
                state(s, !providers.isEmpty()),
                s.person(),
                s.teams() == null ? null : List.of(s.teams()),
                s.team(),
                s.addedAt(),
                s.lastSeen(),
                invited == null ? null : invited.expiresAt(),
                held,
                providers);
    }

    private static String state(SignIn s, boolean elsewhere) {
        if (s.endedAt() != null) {
            return "ended";
        }
        if (s.program()) {
            return "program";
        }
        if (s.password() == null && elsewhere) {
            return "elsewhere";
        }
        return s.password() == null ? "invited" : s.temporary() ? "first-password" : "active";
    }

    @PostMapping("/api/sign-ins")
    @ResponseStatus(HttpStatus.CREATED)
    SignInInfo add(@RequestBody NewSignIn wanted, @AuthenticationPrincipal SignedIn me) {
        return shown(adding.add(wanted, role(wanted.role()), person(wanted.person()), me.login()), null, 0, List.of());
    }

    static Role role(String word) {
        return Arrays.stream(Role.values())
                .filter(r -> r.name().equalsIgnoreCase(word))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "There is no role “" + word + "”", "Roles are administrator, manager, rep and auditor."));
    }

    private Optional<People.Person> person(@Nullable String key) {
        if (key == null || key.isBlank()) {
            return Optional.empty();
        }
        return Optional.of(people.find(key.strip())
                .orElseThrow(
                        () -> Refusal.bad("Nobody has the key or address “" + key + "”", "Import the people first.")));
    }

    /** Each gets a letter with an address that works once, within seven days. */
    @PostMapping("/api/sign-ins/invite")
    List<Invited> invite(@RequestBody InvitePeople wanted, @AuthenticationPrincipal SignedIn me) {
        byMail.needsMail();
        String word = Objects.requireNonNullElse(wanted.role(), "");
        Optional<Role> role = word.isEmpty() ? Optional.empty() : Optional.of(role(word));
        List<Invited> outcomes = new ArrayList<>();
        for (People.Person person : whom(wanted.people())) {
            String problem = byMail.invite(person, role.orElseGet(() -> usual(person)), me.login());
            outcomes.add(new Invited(person.name(), person.writesAs(), problem));
        }
        return outcomes;
    }

    private List<People.Person> whom(List<String> keys) {
        if (!keys.isEmpty()) {
            return keys.stream()
                    .map(k -> person(k).orElseThrow(() -> Refusal.notFound("person")))
                    .toList();
        }
        List<UUID> have = signIns.all().stream()
                .map(SignIn::person)
                .filter(Objects::nonNull)
                .toList();
        return people.all().stream().filter(p -> !have.contains(p.id())).toList();
    }

    /** What they are in the directory never makes anybody an administrator. */
    static Role usual(People.Person person) {
        return person.role().equalsIgnoreCase(Role.MANAGER.name()) ? Role.MANAGER : Role.REP;
    }

    @PostMapping("/api/sign-ins/{id}/invite")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void inviteAgain(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        byMail.needsMail();
        byMail.again(one(id), me.login());
    }

    @DeleteMapping("/api/sign-ins/{id}/invitation")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void withdraw(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        byMail.withdraw(one(id), me.login());
    }

    @PutMapping("/api/sign-ins/{id}/role")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void role(@PathVariable("id") UUID id, @RequestBody RoleChoice choice, @AuthenticationPrincipal SignedIn me) {
        SignIn signIn = one(id);
        Role role = role(choice.role());
        String[] teams = teams(role, choice.teams());
        if (role != Role.ADMINISTRATOR) {
            keepsAnAdministrator(signIn);
        }
        transactions.executeWithoutResult(t -> {
            signIns.role(id, role.name(), teams);
            journal.add(
                    me.login(),
                    "set the role of",
                    SignInByMail.thing(signIn),
                    inWords(signIn.role(), signIn.teams()),
                    inWords(role.name(), teams));
        });
    }

    private String @Nullable [] teams(Role role, @Nullable List<String> wanted) {
        if (wanted == null) {
            return null;
        }
        if (!role.isLimitable()) {
            throw Refusal.bad(
                    "Only managers and auditors can be limited to teams",
                    "An administrator looks after everybody, and a rep’s lists hold their own alone.");
        }
        if (wanted.isEmpty()) {
            throw Refusal.bad("No team is named", "Name one or more, or none of this for everybody.");
        }
        Set<String> known = people.all().stream().map(People.Person::team).collect(Collectors.toSet());
        for (String team : wanted) {
            if (team.isBlank() || !known.contains(team)) {
                throw Refusal.bad("There is no team “" + team + "”", "Teams are compared as they are written.");
            }
        }
        return wanted.stream().distinct().sorted().toArray(String[]::new);
    }

    private static String inWords(String role, String @Nullable [] teams) {
        return role.toLowerCase(Locale.ROOT) + (teams == null ? "" : ", of " + String.join(", ", teams));
    }

    /** Every way in that it has is shut, at every node. */
    @PostMapping("/api/sign-ins/{id}/end")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void end(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        SignIn signIn = one(id);
        keepsAnAdministrator(signIn);
        ending.end(signIn, me.login());
    }

    /** A person has left: no way in is left, cover ends today, connections are paused; what was captured stays. */
    @PostMapping("/api/people/{id}/left")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void left(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        if (people.one(id).isEmpty()) {
            throw Refusal.notFound("person");
        }
        signIns.ofPerson(id).ifPresent(this::keepsAnAdministrator);
        ending.left(id, me.login());
    }

    private void keepsAnAdministrator(SignIn signIn) {
        if (signIn.role().equals(Role.ADMINISTRATOR.name()) && signIns.otherAdministrators(signIn.id()) == 0) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "This is the last administrator who can sign in",
                    "Make somebody else an administrator first.");
        }
        if (!passwordRules.allowed()
                && passwordRules.emergency().contains(signIn.login())
                && passwordRules.otherEmergency(signIn.id()) == 0) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "This is the last one who gets in when the provider does not answer",
                    "Name another administrator under “Single sign-on…” first.");
        }
    }

    @GetMapping("/api/sign-ins/{id}/tokens")
    List<SessionInfo> tokens(@PathVariable("id") UUID id) {
        return sessions.of(one(id).id(), null);
    }

    /** For a program's sign-in alone: everybody else makes their own. */
    @PostMapping("/api/sign-ins/{id}/tokens")
    @ResponseStatus(HttpStatus.CREATED)
    Token make(@PathVariable("id") UUID id, @RequestBody NewToken wanted, @AuthenticationPrincipal SignedIn me) {
        SignIn signIn = one(id);
        if (!signIn.program() || signIn.endedAt() != null) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Tokens are created for programs",
                    "People create their own, under “Your sign-in”; nobody else may hold what opens theirs.");
        }
        return sessions.make(signIn, wanted, me.login());
    }

    @DeleteMapping("/api/sign-ins/{id}/tokens/{token}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void endOne(@PathVariable("id") UUID id, @PathVariable("token") UUID token, @AuthenticationPrincipal SignedIn me) {
        sessions.end(one(id), token, me.login());
    }

    /** For somebody whose phone is lost, and their codes with it. */
    @DeleteMapping("/api/sign-ins/{id}/second-factor")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void noSecondFactor(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        secondFactors.remove(one(id), me.login());
    }

    private SignIn one(UUID id) {
        return signIns.one(id).orElseThrow(() -> Refusal.notFound("sign-in"));
    }
}
