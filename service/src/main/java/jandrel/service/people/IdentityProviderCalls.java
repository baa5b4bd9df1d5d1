package jandrel.service.people;

import jandrel.api.ConnectionApi.CheckOutcome;
import jandrel.api.ConnectionApi.CheckedStep;
import jandrel.api.SingleSignOnApi.NewProvider;
import jandrel.api.SingleSignOnApi.ProviderInfo;
import jandrel.api.SingleSignOnApi.RoleOfGroup;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Vault;
import jandrel.store.journal.Journal;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.IdentityProviders.GroupRole;
import jandrel.store.people.IdentityProviders.Identity;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import jandrel.store.people.PasswordRules;
import java.net.URI;
import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What an administrator does with the providers. */
@RestController
class IdentityProviderCalls {
    /** In place of a role: no way in. */
    static final String NONE = "NONE";

    private static final int LONGEST = 300;
    private static final int MOST_GROUPS = 200;
    private final IdentityProviders providers;
    private final PasswordRules passwordRules;
    private final SingleSignOn signOn;
    private final ProviderTrial trial;
    private final ProviderLookup lookup;
    private final Vault vault;
    private final Journal journal;
    private final Clock clock;

    IdentityProviderCalls(
            IdentityProviders providers,
            PasswordRules passwordRules,
            SingleSignOn signOn,
            ProviderTrial trial,
            ProviderLookup lookup,
            Vault vault,
            Journal journal,
            Clock clock) {
        this.providers = providers;
        this.passwordRules = passwordRules;
        this.signOn = signOn;
        this.trial = trial;
        this.lookup = lookup;
        this.vault = vault;
        this.journal = journal;
        this.clock = clock;
    }

    @GetMapping("/api/providers")
    List<ProviderInfo> all() {
        List<Identity> identities = providers.identities();
        return providers.all().stream().map(p -> shown(p, identities)).toList();
    }

    private ProviderInfo shown(IdentityProvider p, List<Identity> identities) {
        return new ProviderInfo(
                p.id(),
                p.name(),
                p.issuer(),
                p.clientId(),
                p.secret() != null,
                p.groupsClaim(),
                providers.roles(p.id()).stream()
                        .map(r -> new RoleOfGroup(r.groupName(), r.role().toLowerCase(Locale.ROOT)))
                        .toList(),
                p.otherwise().toLowerCase(Locale.ROOT),
                signOn.redirect(),
                p.addedAt(),
                (int) identities.stream()
                        .filter(i -> i.provider().equals(p.id()))
                        .count());
    }

    /** Tries it step by step; nothing is kept. */
    @PostMapping("/api/providers/check")
    CheckOutcome check(@RequestBody NewProvider wanted) {
        List<CheckedStep> steps = trial.of(wanted.issuer().strip());
        return new CheckOutcome(steps.stream().allMatch(CheckedStep::passed), steps);
    }

    @PostMapping("/api/providers")
    @ResponseStatus(HttpStatus.CREATED)
    @Transactional
    public ProviderInfo add(@RequestBody NewProvider wanted, @AuthenticationPrincipal SignedIn me) {
        IdentityProvider provider = provider(UUID.randomUUID(), wanted, null);
        if (providers.add(provider) == 0) {
            throw taken();
        }
        return written(provider, wanted, "added", me);
    }

    @PutMapping("/api/providers/{id}")
    @Transactional
    public ProviderInfo change(
            @PathVariable("id") UUID id, @RequestBody NewProvider wanted, @AuthenticationPrincipal SignedIn me) {
        IdentityProvider before = one(id);
        IdentityProvider provider = provider(id, wanted, before);
        if (!provider.issuer().equals(before.issuer()) || !provider.clientId().equals(before.clientId())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Issuer and client id stay as they are",
                    "People are known by what this provider calls them: remove it, and add another.");
        }
        if (providers.change(provider) == 0) {
            throw taken();
        }
        return written(provider, wanted, "changed", me);
    }

    private static Refusal taken() {
        return Refusal.of(
                HttpStatus.CONFLICT,
                "There is a provider of that name, or with that issuer and client id",
                "Change the one there is.");
    }

    private ProviderInfo written(IdentityProvider provider, NewProvider wanted, String did, SignedIn me) {
        List<GroupRole> roles = roles(wanted);
        providers.removeRoles(provider.id());
        roles.forEach(r -> providers.addRole(provider.id(), r));
        lookup.forget(provider.id());
        ProviderInfo shown = shown(provider, providers.identities());
        journal.add(
                me.login(),
                did,
                thing(provider),
                null,
                Map.of(
                        "issuer", shown.issuer(),
                        "clientId", shown.clientId(),
                        "roles",
                                shown.roles().stream().collect(Collectors.toMap(RoleOfGroup::group, RoleOfGroup::role)),
                        "otherwise", shown.otherwise()));
        return shown;
    }

    private static Thing thing(IdentityProvider provider) {
        return new Thing("provider", provider.id().toString(), provider.name());
    }

    private IdentityProvider provider(UUID id, NewProvider wanted, @Nullable IdentityProvider before) {
        String issuer = text("The issuer", wanted.issuer());
        if (!isIssuer(issuer)) {
            throw Refusal.bad(
                    "The issuer is no https address", "It is like https://login.corvane.example, without ? and #.");
        }
        String secret = wanted.clientSecret();
        byte[] kept = secret == null
                ? before == null ? null : before.secret()
                : secret.isEmpty() ? null : vault.lock(id, secret);
        String claim = Objects.requireNonNullElse(wanted.groupsClaim(), "").strip();
        String otherwise = Objects.requireNonNullElse(wanted.otherwise(), "rep");
        return new IdentityProvider(
                id,
                text("The name", wanted.name()),
                issuer,
                text("The client id", wanted.clientId()),
                kept,
                claim.isEmpty() ? "groups" : text("The groups’ claim", claim),
                otherwise.equalsIgnoreCase(NONE)
                        ? NONE
                        : SignInCalls.role(otherwise).name(),
                before == null ? clock.instant() : before.addedAt());
    }

    private static boolean isIssuer(String text) {
        try {
            URI uri = URI.create(text);
            return "https".equals(uri.getScheme())
                    && uri.getHost() != null
                    && uri.getQuery() == null
                    && uri.getFragment() == null
                    && uri.getUserInfo() == null;
        } catch (IllegalArgumentException none) {
            return false;
        }
    }

    private static String text(String what, String given) {
        String text = given.strip();
        if (text.isEmpty() || text.length() > LONGEST) {
            throw Refusal.bad(what + " does not do", "It needs 300 characters at most, and one at least.");
        }
        return text;
    }

    private static List<GroupRole> roles(NewProvider wanted) {
        List<RoleOfGroup> given = Objects.requireNonNullElse(wanted.roles(), List.of());
        Set<String> seen = new HashSet<>();
        if (given.size() > MOST_GROUPS
                || given.stream().anyMatch(r -> !seen.add(r.group().strip()))) {
            throw Refusal.bad("A group has two roles, or there are more than 200", "Name each group once.");
        }
        return given.stream()
                .map(r -> new GroupRole(
                        text("A group’s name", r.group()),
                        SignInCalls.role(r.role()).name()))
                .toList();
    }

    /** Sessions that it opened end; who has no password has no way in any more, until they are invited. */
    @DeleteMapping("/api/providers/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    @Transactional
    public void remove(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        IdentityProvider provider = one(id);
        if (!passwordRules.allowed() && providers.all().size() == 1) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "This is the only way in there is",
                    "Let everybody sign in with a password first.");
        }
        providers.endSessions(id);
        providers.remove(id);
        lookup.forget(id);
        journal.add(me.login(), "removed", thing(provider), null, null);
    }

    private IdentityProvider one(UUID id) {
        return providers.one(id).orElseThrow(() -> Refusal.notFound("provider"));
    }
}
