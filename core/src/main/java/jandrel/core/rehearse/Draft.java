package jandrel.core.rehearse;

import jandrel.core.directory.Exclusion;
import jandrel.core.policy.Policy;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * A change of the rules that has not been made.
 *
 * @param policies all that are not archived, in order, as they would be; nothing when they stay
 * @param exclusions those that would be added
 * @param included the ids of exclusions that would be removed
 * @param own the keys of our own domains as they would be; nothing when they stay
 * @param freeMail the keys of free-mail domains as they would be; nothing when they stay
 */
public record Draft(
        Optional<List<Policy>> policies,
        List<Exclusion> exclusions,
        Set<UUID> included,
        Optional<Set<String>> own,
        Optional<Set<String>> freeMail) {
    /** No change at all. */
    public static final Draft NONE =
            new Draft(Optional.empty(), List.of(), Set.of(), Optional.empty(), Optional.empty());

    public Draft {
        exclusions = List.copyOf(exclusions);
        included = Set.copyOf(included);
    }

    public static Draft excluding(List<Exclusion> added) {
        return new Draft(Optional.empty(), added, Set.of(), Optional.empty(), Optional.empty());
    }

    public static Draft including(Set<UUID> removed) {
        return new Draft(Optional.empty(), List.of(), removed, Optional.empty(), Optional.empty());
    }

    public static Draft of(List<Policy> policies) {
        return new Draft(Optional.of(policies), List.of(), Set.of(), Optional.empty(), Optional.empty());
    }

    public static Draft ofDomains(Set<String> own, Set<String> freeMail) {
        return new Draft(Optional.empty(), List.of(), Set.of(), Optional.of(own), Optional.of(freeMail));
    }
}
