package jandrel.core.policy;

import java.util.List;
import java.util.Optional;
import java.util.UUID;

/**
 * Under which policy a person is, and why.
 *
 * @param why what of the audience has the person
 */
public record Covered(Policy policy, String why) {

    /** A person as audiences see them. */
    public record Person(UUID id, String key, String team, String role) {}

    /** @param inOrder the policies that are not archived; the first whose audience has the person counts */
    public static Optional<Covered> of(Person person, List<Policy> inOrder) {
        for (Policy policy : inOrder) {
            Optional<String> why = policy.audience().has(person);
            if (why.isPresent()) {
                return Optional.of(new Covered(policy, why.get()));
            }
        }
        return Optional.empty();
    }
}
