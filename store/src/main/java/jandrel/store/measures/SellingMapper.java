package jandrel.store.measures;

import jandrel.core.measures.TeamHistory;
import jandrel.store.timeline.TimelineMapper;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultMap;
import org.apache.ibatis.annotations.ResultType;
import org.apache.ibatis.annotations.Results;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.session.ResultHandler;
import org.jspecify.annotations.Nullable;

/** Reads what {@link SellingKeeper} keeps. */
@Mapper
interface SellingMapper {
    int AT_A_TIME = 2_000;

    /** How a meeting stands, in parts. In the trail, as JSON: no text that somebody wrote can hold these quotes. */
    String STANDS = """
            a.kind = 'meeting' AND a.facts::jsonb ->> 'state' = 'CANCELLED' AS cancelled,
            a.kind = 'meeting' AND position('"rule":"DECLINED_BY_ALL"' IN a.trail) > 0 AS declined,
            a.kind = 'meeting' AND position('"rule":"MISSED_BY_WORD"' IN a.trail) > 0 AS missed,
            coalesce(CASE WHEN a.kind = 'meeting' THEN """ + TimelineMapper.OUTCOME + " END, '') AS outcome";

    String NO_FOLLOW_UP = "NOT (a.kind = 'meeting' AND coalesce(a.facts::jsonb ->> 'sort', 'MEETING') = 'FOLLOW_UP')";

    String MET = """
            SELECT a.item, a.id AS meeting, l.record AS account,
                ARRAY(SELECT o.record FROM link o WHERE o.activity = a.id AND o.at = l.at AND o.kind = 'opportunity') AS opportunities,
                l.at AS begins, coalesce(a.ends, a.at) AS ends, a.readers, a.face, CASE WHEN a.faces > 1 THEN a.mine END AS mine,
                CASE WHEN a.faces > 1 THEN a.elsewhere END AS elsewhere, a.rivals,
            """ + STANDS + ", a.owners[1] AS owner, " + TimelineMapper.RESULT + """
             AS result, CASE WHEN #{words} THEN a.facts END AS facts
            FROM activity a JOIN link l ON l.activity = a.id AND l.kind = 'account' AND NOT l.blind WHERE a.kind = 'meeting' AND
            """ + NO_FOLLOW_UP;

    String WAS = """
            SELECT h.opportunity, h.at, h.stage, h.state, h.value, h.currency, h.period, h.owner, h.account, h.channel
            FROM opportunity_history h JOIN opportunity o ON o.id = h.opportunity WHERE h.origin <> 'removed'
            """;

    String IN_ORDER = " ORDER BY h.opportunity, h.at, h.id";

    /** @param mine null where there is but one face */
    record Met(
            UUID item,
            UUID meeting,
            UUID account,
            UUID[] opportunities,
            Instant begins,
            Instant ends,
            UUID @Nullable [] readers,
            int face,
            UUID @Nullable [] mine,
            UUID @Nullable [] elsewhere,
            UUID @Nullable [] rivals,
            boolean cancelled,
            boolean declined,
            boolean missed,
            String outcome,
            @Nullable UUID owner,
            @Nullable String result,
            @Nullable String facts) {}

    record Was(
            UUID opportunity,
            Instant at,
            String stage,
            String state,
            @Nullable BigDecimal value,
            String currency,
            String period,
            @Nullable UUID owner,
            UUID account,
            String channel) {}

    /** Told column by column: to have them found by their names costs more for each row than to read it. */
    @Arg(column = "item", javaType = UUID.class)
    @Arg(column = "meeting", javaType = UUID.class)
    @Arg(column = "account", javaType = UUID.class)
    @Arg(column = "opportunities", javaType = UUID[].class)
    @Arg(column = "begins", javaType = Instant.class)
    @Arg(column = "ends", javaType = Instant.class)
    @Arg(column = "readers", javaType = UUID[].class)
    @Arg(column = "face", javaType = int.class)
    @Arg(column = "mine", javaType = UUID[].class)
    @Arg(column = "elsewhere", javaType = UUID[].class)
    @Arg(column = "rivals", javaType = UUID[].class)
    @Arg(column = "cancelled", javaType = boolean.class)
    @Arg(column = "declined", javaType = boolean.class)
    @Arg(column = "missed", javaType = boolean.class)
    @Arg(column = "outcome", javaType = String.class)
    @Arg(column = "owner", javaType = UUID.class)
    @Arg(column = "result", javaType = String.class)
    @Arg(column = "facts", javaType = String.class)
    @Results(id = "met")
    @ResultType(Met.class)
    @Options(fetchSize = AT_A_TIME)
    @Select(MET)
    void allMet(@Param("words") boolean words, ResultHandler<Met> each);

    @ResultMap("met")
    @Options(fetchSize = AT_A_TIME)
    @Select(MET + " AND (a.id = ANY(#{items}) AND a.id = a.item OR a.id <> a.item AND a.item = ANY(#{items}))")
    void met(@Param("items") UUID[] items, @Param("words") boolean words, ResultHandler<Met> each);

    /** Of each opportunity in order. */
    @Arg(column = "opportunity", javaType = UUID.class)
    @Arg(column = "at", javaType = Instant.class)
    @Arg(column = "stage", javaType = String.class)
    @Arg(column = "state", javaType = String.class)
    @Arg(column = "value", javaType = BigDecimal.class)
    @Arg(column = "currency", javaType = String.class)
    @Arg(column = "period", javaType = String.class)
    @Arg(column = "owner", javaType = UUID.class)
    @Arg(column = "account", javaType = UUID.class)
    @Arg(column = "channel", javaType = String.class)
    @Results(id = "was")
    @ResultType(Was.class)
    @Options(fetchSize = AT_A_TIME)
    @Select(WAS + IN_ORDER)
    void allHistory(ResultHandler<Was> each);

    @ResultMap("was")
    @Options(fetchSize = AT_A_TIME)
    @Select(WAS + " AND h.opportunity = ANY(#{opportunities})" + IN_ORDER)
    void history(@Param("opportunities") UUID[] opportunities, ResultHandler<Was> each);

    @Select("SELECT person, at, team FROM person_team ORDER BY at, id")
    List<TeamHistory.Joined> teams();
}
