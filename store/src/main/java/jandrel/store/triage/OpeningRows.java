package jandrel.store.triage;

import jandrel.core.item.MeetingItem;
import jandrel.core.opening.OpeningMeeting;
import jandrel.core.opening.OpeningResult;
import jandrel.core.opening.Openings;
import jandrel.core.policy.Opening;
import jandrel.core.visibility.Viewer;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.DecisionMapper;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/** Meetings that may open or join an opportunity, and what they did. */
@Component
public class OpeningRows {
    /** So many are looked at in one go. */
    public static final int BATCH = 200;

    private final Mapped mapper;
    private final Slices slices;

    /**
     * What a meeting does or would do.
     *
     * @param seen a digest of what that rests on
     * @param reads whether the viewer reads the meeting in full
     */
    public record Looked(OpeningMeeting meeting, OpeningResult result, String seen, boolean reads) {}

    /**
     * What a meeting did.
     *
     * @param did {@code opened}, {@code joined}, {@code leads}, {@code nothing}, {@code waits} or {@code undone}
     */
    public record Done(
            UUID item,
            Instant at,
            UUID policy,
            String policyName,
            String did,
            @Nullable UUID opportunity,
            @Nullable String name,
            String why) {}

    @Mapper
    interface Mapped {
        record Row(
                UUID item,
                Instant at,
                UUID person,
                String calendar,
                String facts,
                boolean kept,
                boolean forAll,
                @Nullable UUID linked,
                String seen,
                boolean reads) {}

        /** One copy of each, the best known. */
        String HEAD = """
                WITH one AS (
                    SELECT DISTINCT ON (s.item) s.* FROM sighting s
                    WHERE s.kind = 'meeting' AND s.verdict IN ('logged', 'waiting') AND NOT s.gone AND s.facts IS NOT NULL
                      AND s.at >= #{from} AND s.at < #{until} AND s.person = ANY(#{people})
                    ORDER BY s.item, s.verdict, s.id)
                SELECT s.item, s.at, s.person, o.label AS calendar, s.facts,
                    s.sharing = 'OWNER' OR EXISTS (SELECT FROM
                """ + DecisionMapper.FACE_OF + """
                     f WHERE f.readers <@ f.mine) OR EXISTS (SELECT FROM ruling r WHERE r.item = s.item AND NOT r.opens
                        AND (r.by_person = s.person OR r.by_person = ANY(s.insiders))) AS kept,
                    CASE WHEN s.verdict = 'logged' THEN EXISTS (SELECT FROM
                """ + DecisionMapper.FACE_OF + """
                     f WHERE f.readers IS NULL) ELSE s.sharing = 'EVERYONE' END AS for_all,
                    (SELECT p.id FROM activity a JOIN link l ON l.activity = a.id AND l.at = a.at AND l.kind = 'opportunity'
                        JOIN opportunity p ON p.id = l.record AND p.state = 'OPEN' AND p.archived_at IS NULL
                        WHERE a.item = s.item ORDER BY p.id LIMIT 1) AS linked,
                    md5(s.trail || #{stamp}) AS seen,
                """;

        String BODY = """
                 AS reads FROM one s JOIN source o ON o.id = s.source
                """;

        /** Those that did nothing yet, or whose decision or policy has changed since they were looked at. */
        @Select(HEAD + "true" + BODY + """
                LEFT JOIN meeting_opening m ON m.item = s.item
                WHERE m.item IS NULL OR (m.did IN ('nothing', 'waits') AND m.seen <> md5(s.trail || #{stamp}))
                    OR (m.did = 'waits' AND m.at < #{day})
                ORDER BY s.at, s.item LIMIT #{most}
                """)
        // asked twice in one transaction, before and after the rules are its alone: nothing of before may be answered
        @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
        List<Row> pending(
                @Param("people") UUID[] people,
                @Param("from") Instant from,
                @Param("until") Instant until,
                @Param("stamp") String stamp,
                @Param("day") Instant day,
                @Param("most") int most);

        @Select(HEAD + DecisionMapper.READS + BODY + """
                WHERE (s.at, s.item) > (#{after}, #{afterItem}) ORDER BY s.at, s.item LIMIT #{most}
                """)
        List<Row> all(
                @Param("people") UUID[] people,
                @Param("from") Instant from,
                @Param("until") Instant until,
                @Param("stamp") String stamp,
                @Param("viewer") UUID[] viewer,
                @Param("after") Instant after,
                @Param("afterItem") UUID afterItem,
                @Param("most") int most);

        record FirstRow(String key, Instant at, UUID item) {}

        /** Of accounts by their links; of domains without one by the strangers of meetings. */
        @Select("""
                SELECT DISTINCT ON (1) l.record::text AS key, l.at, a.item FROM link l JOIN activity a ON a.id = l.activity
                    WHERE l.record = ANY(#{accounts}) AND a.kind = 'meeting' AND a.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED'
                    ORDER BY 1, 2, 3
                """)
        List<FirstRow> firstByAccount(@Param("accounts") UUID[] accounts);

        @Select("""
                SELECT DISTINCT ON (1) '@' || t.domain AS key, s.at, s.item FROM stranger t JOIN sighting s ON s.id = t.sighting
                    WHERE t.domain = ANY(#{domains}) AND t.way = 'MEETING' AND s.facts::jsonb ->> 'state' IS DISTINCT FROM 'CANCELLED'
                    ORDER BY 1, 2, 3
                """)
        List<FirstRow> firstByDomain(@Param("domains") String[] domains);

        record ClosedRow(UUID account, Instant at) {}

        @Select("""
                SELECT o.account, max((SELECT min(h.at) FROM opportunity_history h WHERE h.opportunity = o.id AND h.state <> 'OPEN'
                    AND h.at > coalesce((SELECT max(b.at) FROM opportunity_history b WHERE b.opportunity = o.id AND b.state = 'OPEN'),
                        '-infinity'))) AS at
                FROM opportunity o WHERE o.account = ANY(#{accounts}) AND o.state <> 'OPEN' GROUP BY o.account
                """)
        List<ClosedRow> closed(@Param("accounts") UUID[] accounts);

        @Select("SELECT key FROM opening_not_again WHERE key = ANY(#{keys})")
        List<String> notAgain(@Param("keys") String[] keys);

        @Select("""
                SELECT count(*) FROM meeting_opening WHERE policy = #{policy} AND did IN ('opened', 'leads') AND at >= #{since}
                """)
        int made(@Param("policy") UUID policy, @Param("since") Instant since);

        @Insert("""
                INSERT INTO meeting_opening (item, policy, did, opportunity, deed, why, seen)
                SELECT item, #{policy}, did, opportunity, #{deed}, why, seen
                FROM unnest(#{items}::uuid[], #{dids}::text[], #{opportunities}::uuid[], #{whys}::text[], #{seens}::text[])
                    AS n(item, did, opportunity, why, seen)
                ON CONFLICT (item) DO UPDATE SET policy = excluded.policy, did = excluded.did, opportunity = excluded.opportunity,
                    deed = excluded.deed, why = excluded.why, seen = excluded.seen, at = now()
                """)
        int note(
                @Param("policy") UUID policy,
                @Param("deed") @Nullable UUID deed,
                @Param("items") UUID[] items,
                @Param("dids") String[] dids,
                @Param("opportunities") @Nullable UUID[] opportunities,
                @Param("whys") String[] whys,
                @Param("seens") String[] seens);

        /** Those of a deed, and those that joined what it opened. */
        @Select("""
                UPDATE meeting_opening m SET did = 'undone', opportunity = NULL
                WHERE m.deed = #{deed} OR m.opportunity IN (SELECT opportunity FROM meeting_opening WHERE deed = #{deed} AND did = 'opened')
                RETURNING m.item
                """)
        @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
        List<UUID> undone(@Param("deed") UUID deed);

        @Insert("INSERT INTO opening_not_again SELECT unnest(#{keys}::text[]) ON CONFLICT DO NOTHING")
        int neverAgain(@Param("keys") String[] keys);

        @Update("UPDATE opportunity SET made_by = #{by} WHERE key = ANY(#{keys})")
        int opportunitiesMadeBy(@Param("keys") String[] keys, @Param("by") String by);

        @Update("UPDATE account SET made_by = #{by} WHERE key = ANY(#{keys})")
        int accountsMadeBy(@Param("keys") String[] keys, @Param("by") String by);

        String DONE = """
                SELECT m.item, m.at, m.policy, coalesce((SELECT v.rules::jsonb ->> 'name' FROM policy p
                        JOIN policy_version v ON v.policy = p.id AND v.version = p.version WHERE p.id = m.policy), '') AS policy_name,
                    m.did, m.opportunity, o.name, m.why
                FROM meeting_opening m LEFT JOIN opportunity o ON o.id = m.opportunity
                """;

        @Select(DONE + " WHERE m.item = #{item}")
        Optional<Done> of(@Param("item") UUID item);

        @Select(DONE
                + " WHERE m.opportunity = #{opportunity} ORDER BY m.did = 'opened' DESC, m.at, m.item LIMIT #{most}")
        List<Done> ofOpportunity(@Param("opportunity") UUID opportunity, @Param("most") int most);
    }

    OpeningRows(Mapped mapper, Slices slices) {
        this.mapper = mapper;
        this.slices = slices;
    }

    /**
     * What the next meetings do that have done nothing yet, by their beginning.
     *
     * @param people whom the policy covers
     * @param day when the day began that counts for how much is made
     */
    @Transactional(readOnly = true)
    public List<Looked> pending(
            UUID policy, int version, Opening rules, List<UUID> people, Instant from, Instant until, Instant day) {
        List<Mapped.Row> rows =
                mapper.pending(people.toArray(UUID[]::new), from, until, policy + ":" + version, day, BATCH);
        return looked(new Openings(rules, mapper.made(policy, day)), rows);
    }

    /** What all meetings would do if the rules had held all the while; a day's bound is not asked. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public List<Looked> all(Opening rules, List<UUID> people, Instant from, Instant until, Viewer viewer) {
        Openings run = new Openings(rules, Integer.MIN_VALUE);
        List<Looked> all = new ArrayList<>();
        UUID[] whose = people.toArray(UUID[]::new);
        List<Mapped.Row> page =
                mapper.all(whose, from, until, "", Timelines.ids(viewer), Instant.EPOCH, new UUID(0, 0), BATCH);
        Set<UUID> seen = new HashSet<>();
        while (!page.isEmpty()) {
            // another copy of the same may begin later
            all.addAll(looked(run, page.stream().filter(r -> seen.add(r.item())).toList()));
            Mapped.Row last = page.get(page.size() - 1);
            // each page begins where the one before ended, and does not look at what came before
            page = mapper.all(whose, last.at(), until, "", Timelines.ids(viewer), last.at(), last.item(), BATCH);
        }
        return all;
    }

    private List<Looked> looked(Openings run, List<Mapped.Row> rows) {
        List<MeetingItem> items = rows.stream()
                .map(r -> (MeetingItem) Json.item("meeting", r.facts()))
                .toList();
        var slice = slices.of(items);
        List<OpeningMeeting> meetings = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            Mapped.Row r = rows.get(i);
            meetings.add(OpeningMeeting.of(
                    r.item(),
                    items.get(i),
                    slice,
                    new OpeningMeeting.Shown(r.person(), r.calendar(), r.kept(), r.forAll(), r.linked())));
        }
        Openings.Known known = known(meetings);
        List<Looked> looked = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            Mapped.Row r = rows.get(i);
            looked.add(new Looked(meetings.get(i), run.next(meetings.get(i), slice, known), r.seen(), r.reads()));
        }
        return looked;
    }

    private Openings.Known known(List<OpeningMeeting> meetings) {
        Set<String> keys = meetings.stream()
                .flatMap(m -> m.guests().stream())
                .map(OpeningMeeting.Guest::key)
                .filter(k -> !k.isEmpty())
                .collect(Collectors.toSet());
        UUID[] accounts = keys.stream()
                .filter(k -> !k.startsWith("@"))
                .map(UUID::fromString)
                .toArray(UUID[]::new);
        String[] domains = keys.stream()
                .filter(k -> k.startsWith("@"))
                .map(k -> k.substring(1))
                .toArray(String[]::new);
        Map<String, Openings.First> first = new HashMap<>();
        mapper.firstByAccount(accounts).forEach(f -> first.put(f.key(), new Openings.First(f.at(), f.item())));
        mapper.firstByDomain(domains).forEach(f -> first.put(f.key(), new Openings.First(f.at(), f.item())));
        return new Openings.Known(
                first,
                mapper.closed(accounts).stream()
                        .filter(c -> c.at() != null)
                        .collect(Collectors.toMap(Mapped.ClosedRow::account, Mapped.ClosedRow::at)),
                Set.copyOf(mapper.notAgain(keys.toArray(String[]::new))));
    }

    /**
     * What these did.
     *
     * @param opportunities that they opened or joined
     * @param deed what undoes it; null where they did nothing
     */
    public void note(List<Looked> those, UUID policy, Map<UUID, UUID> opportunities, @Nullable UUID deed) {
        mapper.note(
                policy,
                deed,
                those.stream().map(l -> l.result().item()).toArray(UUID[]::new),
                those.stream()
                        .map(l -> l.result().did().name().toLowerCase(Locale.ROOT))
                        .toArray(String[]::new),
                those.stream().map(l -> opportunities.get(l.result().item())).toArray(UUID[]::new),
                those.stream().map(l -> l.result().why()).toArray(String[]::new),
                those.stream().map(Looked::seen).toArray(String[]::new));
    }

    /** What a deed opened was taken back: its meetings, and those that joined it, open nothing again, nor do others of these accounts. */
    public void undone(UUID deed, List<String> keys) {
        mapper.undone(deed);
        mapper.neverAgain(keys.toArray(String[]::new));
    }

    /** Says who made these records, by their keys. */
    public void madeBy(List<String> opportunities, List<String> accounts, String by) {
        mapper.opportunitiesMadeBy(opportunities.toArray(String[]::new), by);
        mapper.accountsMadeBy(accounts.toArray(String[]::new), by);
    }

    public Optional<Done> of(UUID item) {
        return mapper.of(item);
    }

    /** The one that opened it first. */
    public List<Done> ofOpportunity(UUID opportunity, int most) {
        return mapper.ofOpportunity(opportunity, most);
    }
}
