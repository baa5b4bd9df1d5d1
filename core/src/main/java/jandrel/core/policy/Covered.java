package jandrel.core.policy;

import java.util.List;
import java.util.Optional;

/**
 * Under which policy a person is, and why.
 *
 * @param why what of the audience has the person
 */
public record Covered(Policy policy, String why) {

    /** @param inOrder the policies that are not archived; the first whose audience has the person counts */
    public static Optional<Covered> of(CoveredPerson person, List<Policy> inOrder) {
        for (Policy policy : inOrder) {
            Optional<String> why = policy.audience().has(person);
            if (why.isPresent()) {
                return Optional.of(new Covered(policy, why.get()));
            }
        }
        return Optional.empty();
    }
}
