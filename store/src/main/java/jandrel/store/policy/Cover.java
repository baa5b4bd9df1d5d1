package jandrel.store.policy;

import jandrel.core.decide.Reopened;
import jandrel.core.policy.Covered;
import jandrel.core.policy.CoveredPerson;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;

/** Who is under which policy: worked out anew with every change of policies or people, and kept beside the people. */
@Component
public class Cover {
    private final Mapped mapper;
    private final Reopener reopened;

    record Kept(UUID person, UUID policy, int version, boolean covered, String why) {}

    @Mapper
    interface Mapped {
        @Select("SELECT id, key, team, role FROM person")
        List<CoveredPerson> people();

        @Select("SELECT person, policy, version, covered, why FROM cover")
        List<Kept> all();

        @Select("SELECT rules FROM policy_version WHERE policy = #{id} AND version = #{version}")
        String rules(@Param("id") UUID id, @Param("version") int version);

        @Insert("""
                INSERT INTO cover SELECT * FROM unnest(#{people}::uuid[], #{policies}::uuid[], #{versions}::int[], #{covered}::boolean[],
                    #{why}::text[])
                ON CONFLICT (person) DO UPDATE SET policy = excluded.policy, version = excluded.version,
                    covered = excluded.covered, why = excluded.why
                """)
        int put(
                @Param("people") UUID[] people,
                @Param("policies") UUID[] policies,
                @Param("versions") String[] versions,
                @Param("covered") String[] covered,
                @Param("why") String[] why);

        /** Reads again from the beginning of a window that has grown. */
        @Update("""
                WITH c AS (UPDATE connection SET since = date_trunc('day', connected_at) - make_interval(days => #{days})
                           WHERE person = ANY(#{people}) RETURNING id)
                UPDATE source SET cursor = '' WHERE connection IN (SELECT id FROM c)
                """)
        int lookBack(@Param("people") UUID[] people, @Param("days") int days);

        /** Looks under way go by the policy from before: others come after them. */
        @Update("UPDATE connection SET generation = generation + 1, look_again = true WHERE person = ANY(#{people})")
        int changed(@Param("people") UUID[] people);

        /** So that series are followed into a window that reaches further, or less far. */
        @Update("""
                UPDATE source SET cursor = '' WHERE kind = 'calendar'
                AND connection IN (SELECT id FROM connection WHERE person = ANY(#{people}))
                """)
        int lookAhead(@Param("people") UUID[] people);
    }

    Cover(Mapped mapper, Reopener reopened) {
        this.reopened = reopened;
        this.mapper = mapper;
    }

    /** People who come under another policy, or another version of theirs. */
    public record Move(Optional<Policy> before, Policy after) {
        private boolean looksBackElsewhere() {
            return before.isEmpty()
                    || before.get().scope().backDays() != after.scope().backDays();
        }

        /** @return the first day that is captured of a source connected on this day; nothing when it stays */
        public Optional<Instant> since(Instant connectedDay) {
            return looksBackElsewhere()
                    ? Optional.of(
                            connectedDay.minus(Duration.ofDays(after.scope().backDays())))
                    : Optional.empty();
        }
    }

    /** Works it out, and has decided again what changes for anybody. Under the lock of {@link RulesLock#change}. */
    void anew(List<Policy> inOrder) {
        Map<UUID, Kept> before = kept();
        List<Kept> changed = new ArrayList<>();
        for (CoveredPerson person : mapper.people()) {
            Kept was = before.get(person.id());
            kept(person, inOrder, was).filter(is -> !is.equals(was)).ifPresent(changed::add);
        }
        put(changed);
        moves(before, inOrder, changed).forEach((move, people) -> moved(move, people.toArray(UUID[]::new)));
    }

    /** Who would be moved by policies that are not made. */
    public Map<Move, List<UUID>> moves(List<Policy> inOrder) {
        Map<UUID, Kept> before = kept();
        List<Kept> after = new ArrayList<>();
        for (CoveredPerson person : mapper.people()) {
            kept(person, inOrder, before.get(person.id())).ifPresent(after::add);
        }
        return moves(before, inOrder, after);
    }

    private Map<UUID, Kept> kept() {
        Map<UUID, Kept> kept = new HashMap<>();
        mapper.all().forEach(k -> kept.put(k.person(), k));
        return kept;
    }

    private Map<Move, List<UUID>> moves(Map<UUID, Kept> before, List<Policy> inOrder, List<Kept> after) {
        Map<UUID, Policy> wanted = new HashMap<>();
        inOrder.forEach(p -> wanted.put(p.id(), p));
        Map<List<Object>, Policy> read = new HashMap<>();
        Map<Move, List<UUID>> moves = new HashMap<>();
        for (Kept is : after) {
            Policy now = wanted.get(is.policy());
            Kept was = before.get(is.person());
            Optional<Policy> old = Optional.ofNullable(was)
                    .map(w -> read.computeIfAbsent(
                            List.of(w.policy(), w.version()), k -> Json.policy(mapper.rules(w.policy(), w.version()))));
            // whom no policy has any more stays as they are
            if (now != null && is.covered() && !old.equals(Optional.of(now))) {
                moves.computeIfAbsent(new Move(old, now), m -> new ArrayList<>())
                        .add(is.person());
            }
        }
        return moves;
    }

    private void put(List<Kept> all) {
        if (!all.isEmpty()) {
            mapper.put(
                    all.stream().map(Kept::person).toArray(UUID[]::new),
                    all.stream().map(Kept::policy).toArray(UUID[]::new),
                    all.stream().map(k -> String.valueOf(k.version())).toArray(String[]::new),
                    all.stream().map(k -> String.valueOf(k.covered())).toArray(String[]::new),
                    all.stream().map(Kept::why).toArray(String[]::new));
        }
    }

    private static Optional<Kept> kept(
            CoveredPerson person, List<Policy> inOrder, @org.jspecify.annotations.Nullable Kept was) {
        Optional<Covered> covered = Covered.of(person, inOrder);
        if (covered.isPresent()) {
            Policy policy = covered.get().policy();
            return Optional.of(new Kept(
                    person.id(),
                    policy.id(),
                    policy.version(),
                    true,
                    covered.get().why()));
        }
        // whom no policy has any more stays with the last: nothing captured is touched
        return Optional.ofNullable(was)
                .map(w -> new Kept(person.id(), w.policy(), w.version(), false, "no policy has this person any more"));
    }

    private void moved(Move move, UUID[] people) {
        Optional<Scope> before = move.before().map(Policy::scope);
        Scope after = move.after().scope();
        if (move.looksBackElsewhere()) {
            mapper.lookBack(people, after.backDays());
        }
        if (before.isEmpty() || before.get().aheadDays() != after.aheadDays()) {
            mapper.lookAhead(people);
        }
        Optional<String> keyword = move.before().map(p -> p.handling().loggedKeyword());
        if (keyword.filter(k -> !k.equals(move.after().handling().loggedKeyword()))
                .isPresent()) {
            reopened.keywordsAgain(people);
        }
        mapper.changed(people);
        reopened.mark(Reopened.moved(move.before(), move.after(), Set.of(people)));
    }

    /** What of these people has changed that decisions rest on: their team, the end of their cover, how much they share. */
    public void changed(Collection<UUID> people, List<Policy> inOrder) {
        reopened.mark(Reopened.standing(Set.copyOf(people)));
        anew(inOrder);
    }
}
