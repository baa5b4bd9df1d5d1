package jandrel.service.policy;

import jandrel.api.PolicyApi.FilePolicy;
import jandrel.api.PolicyApi.PoliciesFile;
import jandrel.core.directory.OwnFields;
import jandrel.core.policy.Policy;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.policy.Policies;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** All policies as one file, which is taken whole or not at all. */
@Component
public class PolicyImport {
    private final Policies policies;
    private final OwnFieldList own;

    PolicyImport(Policies policies, OwnFieldList own) {
        this.own = own;
        this.policies = policies;
    }

    /** @param before null when there is none of that name yet */
    public record Wanted(Policies.@Nullable Kept before, Policy policy, boolean enabled) {
        boolean changes() {
            return before == null || before.enabled() != enabled || !policy.equals(before.policy());
        }
    }

    /** What a file wants, in order; those that it does not name stay, behind. All that does not fit is refused as a whole. */
    public List<Wanted> read(PoliciesFile file) {
        List<Policies.Kept> known =
                policies.all().stream().filter(k -> !k.archived()).toList();
        OwnFields fields = own.fields();
        List<Wanted> wanted = new ArrayList<>();
        Set<String> names = new LinkedHashSet<>();
        for (FilePolicy p : file.policies()) {
            if (!names.add(p.rules().name())) {
                throw Refusal.bad(
                        "“" + p.rules().name() + "” stands in the file twice", "A policy is known by its name.");
            }
            Optional<Policies.Kept> before = known.stream()
                    .filter(k -> k.policy().name().equals(p.rules().name()))
                    .findFirst();
            Policy policy = PolicyWords.policy(
                    before.map(k -> k.policy().id()).orElseGet(UUID::randomUUID),
                    before.map(k -> k.policy().version()).orElse(1),
                    p.rules(),
                    fields);
            if (p.enabled() && !policy.notActiveYet().isEmpty()) {
                throw Refusal.bad(
                        "“" + policy.name() + "” cannot be switched on as it is",
                        String.join(" ", policy.notActiveYet()));
            }
            wanted.add(new Wanted(before.orElse(null), policy, p.enabled()));
        }
        known.stream()
                .filter(k -> !names.contains(k.policy().name()))
                .forEach(k -> wanted.add(new Wanted(k, k.policy(), k.enabled())));
        return wanted;
    }

    public PoliciesFile all() {
        return new PoliciesFile(policies.all().stream()
                .filter(k -> !k.archived())
                .map(k -> new FilePolicy(k.enabled(), PolicyWords.rules(k.policy())))
                .toList());
    }

    /** Makes the policies what the file says, in one transaction. */
    @Transactional
    public void apply(PoliciesFile file, String by) {
        List<UUID> order = new ArrayList<>();
        for (Wanted w : read(file)) {
            Policy policy = w.before() == null ? policies.add(w.policy(), by) : w.policy();
            if (w.before() != null && !policy.equals(w.before().policy())) {
                policies.change(policy, by);
            }
            boolean was = w.before() != null && w.before().enabled();
            if (was != w.enabled()) {
                policies.enable(policy.id(), w.enabled(), by);
            }
            order.add(policy.id());
        }
        if (!order.equals(policies.inOrder().stream().map(Policy::id).toList())) {
            policies.order(order, by);
        }
    }
}
