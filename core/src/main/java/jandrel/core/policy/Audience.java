package jandrel.core.policy;

import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * The people that a policy covers: everyone, or those named, of a team, or of a role. Teams and roles are compared as they are
 * written.
 *
 * @param people by their keys in the directory
 */
public record Audience(boolean everyone, Set<String> people, Set<String> teams, Set<String> roles) {
    /** No limit. */
    public static final Audience EVERYONE = new Audience(true, Set.of(), Set.of(), Set.of());

    public Audience {
        people = Set.copyOf(people);
        teams = Set.copyOf(teams);
        roles = Set.copyOf(roles);
    }

    public static Audience ofTeams(String... teams) {
        return new Audience(false, Set.of(), Set.of(teams), Set.of());
    }

    /** Why it has the person, such as {@code team North}; nothing when it has not. */
    public Optional<String> has(CoveredPerson person) {
        if (people.contains(person.key())) {
            return Optional.of("named");
        }
        if (teams.contains(person.team())) {
            return Optional.of("team " + person.team());
        }
        if (roles.contains(person.role())) {
            return Optional.of("role " + person.role());
        }
        return everyone ? Optional.of("everyone") : Optional.empty();
    }

    /** In words, as in “for …”. */
    public String words() {
        if (everyone) {
            return "everyone";
        }
        Set<String> parts = new TreeSet<>();
        teams.forEach(t -> parts.add("team " + t));
        roles.forEach(r -> parts.add("role " + r));
        people.forEach(p -> parts.add(p));
        return parts.isEmpty() ? "nobody" : String.join(", ", parts);
    }
}
