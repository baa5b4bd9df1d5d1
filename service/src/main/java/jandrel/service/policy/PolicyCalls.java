package jandrel.service.policy;

import jandrel.api.PolicyApi.PoliciesFile;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.PolicyOrder;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.api.PolicyApi.VersionInfo;
import jandrel.api.RehearsalApi.Change;
import jandrel.api.RehearsalApi.FileOutcome;
import jandrel.core.policy.Differences;
import jandrel.core.policy.Policy;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.policy.Policies;
import jandrel.store.policy.Policies.Kept;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Policies: their order, their versions, their switch. */
@RestController
class PolicyCalls {
    private final Policies policies;
    private final PolicyImport file;
    private final WakeUp nudges;
    private final OwnFieldList own;

    PolicyCalls(Policies policies, PolicyImport file, WakeUp nudges, OwnFieldList own) {
        this.own = own;
        this.file = file;
        this.policies = policies;
        this.nudges = nudges;
    }

    /** In their order; the archived ones last. */
    @GetMapping("/api/policies")
    List<PolicyInfo> all() {
        Map<UUID, Long> people = policies.covered();
        return policies.all().stream()
                .map(k -> shown(k, people.getOrDefault(k.policy().id(), 0L)))
                .toList();
    }

    private static PolicyInfo shown(Kept k, long people) {
        Policy p = k.policy();
        return new PolicyInfo(
                p.id(),
                p.version(),
                PolicyWords.rules(p),
                k.enabled(),
                k.archived(),
                p.audience().words(),
                Differences.sentences(p, ZoneOffset.UTC),
                List.copyOf(p.notActiveYet()),
                people,
                k.changedBy(),
                k.changedAt());
    }

    @GetMapping("/api/policies/{id}")
    PolicyInfo one(@PathVariable("id") UUID id) {
        return shown(known(id), policies.covered().getOrDefault(id, 0L));
    }

    /** A new one stands before all others and is switched off. */
    @PostMapping("/api/policies")
    @LargestBody(kilobytes = 512)
    @ResponseStatus(HttpStatus.CREATED)
    PolicyInfo add(@RequestBody PolicyRules rules, @AuthenticationPrincipal SignedIn me) {
        Policy added = policies.add(PolicyWords.policy(UUID.randomUUID(), 1, rules, own.fields()), me.login());
        nudges.rulesChanged();
        return one(added.id());
    }

    @PutMapping("/api/policies/{id}")
    @LargestBody(kilobytes = 512)
    PolicyInfo change(
            @PathVariable("id") UUID id, @RequestBody PolicyChange wanted, @AuthenticationPrincipal SignedIn me) {
        Kept kept = known(id);
        Policy policy = PolicyWords.policy(id, wanted.version(), wanted.rules(), own.fields());
        if (kept.enabled()) {
            refuseInactive(policy);
        }
        policies.change(policy, me.login());
        nudges.rulesChanged();
        return one(id);
    }

    @PostMapping("/api/policies/{id}/on")
    PolicyInfo on(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        refuseInactive(known(id).policy());
        policies.enable(id, true, me.login());
        nudges.rulesChanged();
        return one(id);
    }

    private static void refuseInactive(Policy policy) {
        Set<String> reasons = policy.notActiveYet();
        if (!reasons.isEmpty()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT, "The policy cannot be switched on as it is", String.join(" ", reasons));
        }
    }

    /** Nothing new is captured for its people from now on; what stands on timelines stays. */
    @PostMapping("/api/policies/{id}/off")
    PolicyInfo off(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        known(id);
        policies.enable(id, false, me.login());
        return one(id);
    }

    @PostMapping("/api/policies/{id}/archive")
    PolicyInfo archive(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        known(id);
        policies.archive(id, true, me.login());
        nudges.rulesChanged();
        return one(id);
    }

    @PostMapping("/api/policies/{id}/restore")
    PolicyInfo restore(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        known(id);
        policies.archive(id, false, me.login());
        nudges.rulesChanged();
        return one(id);
    }

    @PostMapping("/api/policies/{id}/duplicate")
    @ResponseStatus(HttpStatus.CREATED)
    PolicyInfo duplicate(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Policy like = known(id).policy();
        // it covers nobody until somebody says whom, so that the copy takes no one away from the original
        Policy copy = like.named(UUID.randomUUID(), 1, "Copy of " + like.name())
                .with(new jandrel.core.policy.Audience(false, Set.of(), Set.of(), Set.of()));
        return one(policies.add(copy, me.login()).id());
    }

    @PutMapping("/api/policies/order")
    List<PolicyInfo> order(@RequestBody PolicyOrder wanted, @AuthenticationPrincipal SignedIn me) {
        checked(wanted.ids());
        policies.order(wanted.ids(), me.login());
        nudges.rulesChanged();
        return all();
    }

    void checked(List<UUID> order) {
        Set<UUID> there =
                new HashSet<>(policies.inOrder().stream().map(Policy::id).toList());
        if (order.size() != there.size() || !there.equals(new HashSet<>(order))) {
            throw Refusal.bad(
                    "The order does not name every policy once",
                    "Give the ids of all " + there.size() + " that are not archived.");
        }
    }

    /** All policies as a file has them. */
    @GetMapping("/api/policies/file")
    PoliciesFile file() {
        return file.all();
    }

    /** Makes the policies what the file says, as a whole or not at all; says the differences, and does nothing unless told to. */
    @PostMapping("/api/policies/file")
    @LargestBody(kilobytes = 2048)
    FileOutcome applyFile(
            @RequestBody PoliciesFile wanted,
            @RequestParam(name = "apply", defaultValue = "false") boolean apply,
            @AuthenticationPrincipal SignedIn me) {
        List<String> differences = new ArrayList<>();
        List<PolicyImport.Wanted> all = file.read(wanted);
        for (PolicyImport.Wanted w : all) {
            String name = "“" + w.policy().name() + "”: ";
            Kept before = w.before();
            if (before == null) {
                differences.add(name + "is new");
                Differences.sentences(w.policy(), ZoneOffset.UTC).forEach(s -> differences.add(name + s));
                continue;
            }
            Differences.between(before.policy(), w.policy(), ZoneOffset.UTC).forEach(d -> differences.add(name + d));
            if (before.enabled() != w.enabled()) {
                differences.add(name + (w.enabled() ? "is switched on" : "is switched off"));
            }
        }
        List<UUID> order = all.stream().map(w -> w.policy().id()).toList();
        List<UUID> now = policies.inOrder().stream().map(Policy::id).toList();
        if (differences.isEmpty() && !order.equals(now)) {
            differences.add("The order becomes "
                    + String.join(", ", all.stream().map(w -> w.policy().name()).toList()) + ".");
        }
        Change change = new Change(null, null, null, null, null, null, null, null, wanted);
        if (apply && !differences.isEmpty()) {
            file.apply(wanted, me.login());
            nudges.rulesChanged();
        }
        return new FileOutcome(differences, differences.isEmpty() ? null : change);
    }

    @GetMapping("/api/policies/{id}/versions")
    List<VersionInfo> versions(@PathVariable("id") UUID id) {
        known(id);
        List<Kept> all = policies.versions(id);
        List<VersionInfo> shown = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            Kept k = all.get(i);
            List<String> differences = i + 1 == all.size()
                    ? List.of("The first version.")
                    : Differences.between(all.get(i + 1).policy(), k.policy(), ZoneOffset.UTC);
            shown.add(new VersionInfo(
                    k.policy().version(), k.changedBy(), k.changedAt(), differences, PolicyWords.rules(k.policy())));
        }
        return shown;
    }

    /** Makes an earlier version the newest again. */
    @PostMapping("/api/policies/{id}/versions/{version}/back")
    PolicyInfo back(
            @PathVariable("id") UUID id, @PathVariable("version") int version, @AuthenticationPrincipal SignedIn me) {
        if (policies.versions(id).stream().noneMatch(k -> k.policy().version() == version)) {
            throw Refusal.notFound("version");
        }
        policies.back(id, version, me.login());
        nudges.rulesChanged();
        return one(id);
    }

    private Kept known(UUID id) {
        return policies.find(id).orElseThrow(() -> Refusal.notFound("policy"));
    }
}
