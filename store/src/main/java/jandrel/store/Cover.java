package jandrel.store;

import jandrel.core.decide.Rule;
import jandrel.core.policy.Covered;
import jandrel.core.policy.Policy;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;

/** Who is under which policy: worked out anew with every change of policies or people, and kept beside the people. */
@Component
class Cover {
    private final Mapped mapper;
    private final IntakeMapper intake;

    record Kept(UUID person, UUID policy, int version, boolean covered, String why) {}

    @Mapper
    interface Mapped {
        @Select("SELECT id, key, team, role FROM person")
        List<Covered.Person> people();

        @Select("SELECT person, policy, version, covered, why FROM cover")
        List<Kept> all();

        @Select("SELECT rules FROM policy_version WHERE policy = #{id} AND version = #{version}")
        String rules(@Param("id") UUID id, @Param("version") int version);

        @Insert("""
                INSERT INTO cover VALUES (#{k.person}, #{k.policy}, #{k.version}, #{k.covered}, #{k.why})
                ON CONFLICT (person) DO UPDATE SET policy = excluded.policy, version = excluded.version,
                    covered = excluded.covered, why = excluded.why
                """)
        int put(@Param("k") Kept kept);

        /** Reads again from the beginning of a window that has grown. */
        @Update("""
                WITH c AS (UPDATE connection SET since = date_trunc('day', connected_at) - make_interval(days => #{days})
                           WHERE person = ANY(#{people}) RETURNING id)
                UPDATE source SET cursor = '' WHERE connection IN (SELECT id FROM c)
                """)
        int lookBack(@Param("people") UUID[] people, @Param("days") int days);

        /** So that series are followed into a window that reaches further, or less far. */
        @Update("""
                UPDATE source SET cursor = '' WHERE kind = 'calendar'
                AND connection IN (SELECT id FROM connection WHERE person = ANY(#{people}))
                """)
        int lookAhead(@Param("people") UUID[] people);
    }

    Cover(Mapped mapper, IntakeMapper intake) {
        this.mapper = mapper;
        this.intake = intake;
    }

    /** Works it out, and has decided again what changes for anybody. Under the lock of {@link Rules#change}. */
    void anew(List<Policy> inOrder) {
        Map<UUID, Kept> before = new HashMap<>();
        mapper.all().forEach(k -> before.put(k.person(), k));
        Map<List<Object>, List<UUID>> moves = new HashMap<>();
        Map<UUID, Policy> now = new HashMap<>();
        for (Covered.Person person : mapper.people()) {
            Kept was = before.get(person.id());
            Optional<Kept> is = kept(person, inOrder, was);
            if (is.isPresent() && !is.get().equals(was)) {
                mapper.put(is.get());
                Covered.of(person, inOrder).ifPresent(c -> now.put(c.policy().id(), c.policy()));
                if (was == null
                        || was.version() != is.get().version()
                        || !was.policy().equals(is.get().policy())) {
                    moves.computeIfAbsent(
                                    List.of(
                                            was == null ? "" : was.policy(),
                                            was == null ? 0 : was.version(),
                                            is.get().policy()),
                                    m -> new ArrayList<>())
                            .add(person.id());
                }
            }
        }
        moves.forEach((move, people) -> moved(
                move.get(0) instanceof UUID old
                        ? Optional.of(Json.policy(mapper.rules(old, (Integer) move.get(1))))
                        : Optional.empty(),
                Objects.requireNonNull(now.get((UUID) move.get(2))),
                people.toArray(UUID[]::new)));
    }

    private static Optional<Kept> kept(
            Covered.Person person, List<Policy> inOrder, @org.jspecify.annotations.Nullable Kept was) {
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

    private void moved(Optional<Policy> before, Policy after, UUID[] people) {
        if (before.isEmpty() || before.get().scope().backDays() != after.scope().backDays()) {
            mapper.lookBack(people, after.scope().backDays());
        }
        if (before.isEmpty()
                || before.get().scope().aheadDays() != after.scope().aheadDays()) {
            mapper.lookAhead(people);
        }
        intake.refetchOf(reopened(before, after), people);
        intake.reconsiderOf(people);
    }

    /** The rules whose victims may fare otherwise now. Nothing of those is kept, so their sources are asked. */
    static String[] reopened(Optional<Policy> before, Policy after) {
        Set<Rule> rules = new TreeSet<>(Set.of(Rule.NOT_COVERED));
        if (before.isEmpty() || !before.get().scope().equals(after.scope())) {
            rules.addAll(List.of(Rule.MAIL_OFF, Rule.MEETINGS_OFF, Rule.RECEIVED_OFF, Rule.SENT_OFF, Rule.TOO_OLD));
        }
        if (before.isEmpty() || !before.get().handling().equals(after.handling())) {
            rules.addAll(List.of(Rule.PRIVATE_OFF, Rule.SERIES_OFF, Rule.CANCELLED));
        }
        if (before.isEmpty() || !before.get().id().equals(after.id())) {
            rules.add(Rule.EXCLUDED);
        }
        return rules.stream().map(Rule::name).toArray(String[]::new);
    }

    /** What of these people has changed that decisions rest on: their team, the end of their cover, how much they share. */
    void changed(Collection<UUID> people, List<Policy> inOrder) {
        UUID[] ids = people.toArray(UUID[]::new);
        if (ids.length > 0) {
            intake.refetchOf(new String[] {Rule.COVER_ENDED.name()}, ids);
            intake.reconsiderOf(ids);
        }
        anew(inOrder);
    }
}
