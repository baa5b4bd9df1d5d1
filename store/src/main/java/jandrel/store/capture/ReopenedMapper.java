package jandrel.store.capture;

import jandrel.core.decide.Reopened;
import jandrel.core.decide.Rule;
import jandrel.store.rehearsal.TouchedMapper;
import java.util.Collection;
import java.util.UUID;
import org.apache.ibatis.annotations.InsertProvider;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;

/** Finds what a change reopens: to mark it for capture, or to list it for a rehearsal. */
@Mapper
public interface ReopenedMapper {
    /** What is looked for, as SQL takes it; what does not matter for its kind is empty. */
    public record Wanted(String sql, String[] keys, String[] rules, UUID[] ids, Touched like) {
        private static final String[] NO_TEXT = {};
        private static final UUID[] NO_ID = {};
        private static final Touched NOTHING = new Touched("", "", "", NO_TEXT);

        static Wanted by(Reopened reopened) {
            if (reopened instanceof Reopened.Carrying carrying) {
                return new Wanted(CARRYING, carrying.keys().toArray(String[]::new), NO_TEXT, NO_ID, NOTHING);
            }
            if (reopened instanceof Reopened.Fitting fitting) {
                return new Wanted(FITTING, NO_TEXT, NO_TEXT, NO_ID, Touched.by(fitting.exclusion()));
            }
            if (reopened instanceof Reopened.Of of) {
                return new Wanted(OF, NO_TEXT, NO_TEXT, ids(of.people()), NOTHING);
            }
            if (reopened instanceof Reopened.LeftOut out) {
                String sql = out.people().isEmpty() ? LEFT_OUT : LEFT_OUT_OF;
                return new Wanted(sql, NO_TEXT, names(out.rules()), ids(out.people()), NOTHING);
            }
            if (reopened instanceof Reopened.ExcludedBy by) {
                return new Wanted(EXCLUDED_BY, NO_TEXT, NO_TEXT, ids(by.exclusions()), NOTHING);
            }
            Reopened.Copies copies = (Reopened.Copies) reopened;
            return new Wanted(COPIES, NO_TEXT, names(copies.rules()), new UUID[] {copies.item()}, NOTHING);
        }

        private static String[] names(Collection<Rule> rules) {
            return rules.stream().map(Rule::name).toArray(String[]::new);
        }

        private static UUID[] ids(Collection<UUID> ids) {
            return ids.toArray(UUID[]::new);
        }
    }

    String FOUND = "SELECT id, item, facts IS NOT NULL AS kept FROM sighting s WHERE ";

    /** An address that differs by dots alone carries a key, too, where dots are ignored. */
    String CARRYING = FOUND + """
            s.keys && #{w.keys}
            UNION SELECT s.id, s.item, s.facts IS NOT NULL FROM (SELECT DISTINCT d.domain, undotted(k) AS plain
                FROM unnest(#{w.keys}::text[]) k JOIN dotless_domain d ON d.domain = '@' || split_part(k, '@', 2) WHERE k NOT LIKE '@%') n
              JOIN sighting s ON s.keys && ARRAY[n.domain]
                AND EXISTS (SELECT FROM unnest(s.keys) x WHERE x NOT LIKE '@%' AND undotted(regexp_replace(x, '[+][^@]*@', '@')) = n.plain)
            """;

    String FITTING = FOUND + """
            s.facts IS NOT NULL AND (#{w.like.kind} = '' OR s.kind = #{w.like.kind})
            AND (#{w.like.keysLike} = '' OR EXISTS (SELECT 1 FROM unnest(s.keys) k WHERE k LIKE #{w.like.keysLike}))
            AND s.facts ILIKE ALL(#{w.like.factsLike}::text[])
            """;

    String AT =
            "s.source IN (SELECT o.id FROM source o JOIN connection c ON c.id = o.connection WHERE c.person = ANY(#{w.ids}))";

    String OF = FOUND + "s.facts IS NOT NULL AND " + AT;
    /** By its index, which has these verdicts alone. */
    String LEFT_OUT = FOUND + "s.rule = ANY(#{w.rules}) AND s.verdict IN ('left-out', 'unreadable')";

    String LEFT_OUT_OF = LEFT_OUT + " AND " + AT;
    String EXCLUDED_BY = FOUND + "s.exclusion = ANY(#{w.ids})";
    String COPIES = FOUND + "s.item = ANY(#{w.ids}) AND (s.facts IS NOT NULL OR s.rule = ANY(#{w.rules}))";

    /** The statements around what is looked for. */
    final class Statements {
        public static String mark(@Param("w") Wanted w) {
            return "WITH found AS MATERIALIZED (" + w.sql + """
                    ), again AS (INSERT INTO reconsider SELECT id FROM found WHERE kept ON CONFLICT DO NOTHING)
                    UPDATE sighting s SET refetch = true FROM found f WHERE s.id = f.id AND NOT f.kept
                    """;
        }

        public static String touch(@Param("w") Wanted w) {
            return "INSERT INTO touched_item SELECT item, CASE WHEN NOT kept THEN id END FROM (" + w.sql + ") f";
        }
    }

    /** What is kept is decided again, what is not is fetched again. */
    @InsertProvider(type = Statements.class, method = "mark")
    int mark(@Param("w") Wanted wanted);

    /** Into the list of a rehearsal; see {@link TouchedMapper#begin}. */
    @InsertProvider(type = Statements.class, method = "touch")
    int touch(@Param("w") Wanted wanted);

    default void mark(Collection<Reopened> reopened) {
        reopened.forEach(r -> mark(Wanted.by(r)));
    }

    default void touch(Collection<Reopened> reopened) {
        reopened.forEach(r -> touch(Wanted.by(r)));
    }
}
