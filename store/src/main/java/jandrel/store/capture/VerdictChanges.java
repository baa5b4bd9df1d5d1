package jandrel.store.capture;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.springframework.stereotype.Component;

/** Notes what became another verdict when it was decided again: nothing of what the item says. */
@Component
class VerdictChanges {
    private final Mapped mapper;

    @Mapper
    interface Mapped {
        /** With the policy that each person is under now. */
        @Insert("""
                INSERT INTO decision_change (sighting, person, policy, version, before, after, rule)
                SELECT x.sighting, x.person, c.policy, c.version, x.before, x.after, x.rule
                FROM unnest(#{sightings}::uuid[], #{people}::uuid[], #{before}::text[], #{after}::text[], #{rules}::text[])
                    AS x(sighting, person, before, after, rule)
                LEFT JOIN cover c ON c.person = x.person
                """)
        int put(
                @Param("sightings") UUID[] sightings,
                @Param("people") UUID[] people,
                @Param("before") String[] before,
                @Param("after") String[] after,
                @Param("rules") String[] rules);
    }

    VerdictChanges(Mapped mapper) {
        this.mapper = mapper;
    }

    /** @param before what stood in the same places, be it the same item or another */
    void note(List<RecordMapper.Placed> before, Collection<DecidedItem> now) {
        if (before.isEmpty()) {
            return;
        }
        Map<UUID, RecordMapper.Placed> was = new HashMap<>();
        before.forEach(p -> was.put(p.id(), p));
        List<DecidedItem> changed = new ArrayList<>();
        List<String> verdicts = new ArrayList<>();
        for (DecidedItem is : now) {
            RecordMapper.Placed stood = was.get(is.sighting());
            if (stood != null && is.isAnotherVerdictThan(stood)) {
                changed.add(is);
                verdicts.add(stood.verdict());
            }
        }
        if (!changed.isEmpty()) {
            mapper.put(
                    changed.stream().map(DecidedItem::sighting).toArray(UUID[]::new),
                    changed.stream().map(DecidedItem::person).toArray(UUID[]::new),
                    verdicts.toArray(String[]::new),
                    texts(changed, is -> is.decision().verdict().word()),
                    texts(changed, is -> is.rule().name()));
        }
    }

    private static String[] texts(List<DecidedItem> of, Function<DecidedItem, String> text) {
        return of.stream().map(text).toArray(String[]::new);
    }
}
