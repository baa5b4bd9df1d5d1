package jandrel.store.triage;

import jandrel.core.policy.Creation;
import jandrel.core.triage.Stranger;
import jandrel.core.visibility.Viewer;
import jandrel.store.kernel.Like;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.DecisionMapper;
import jandrel.store.timeline.Timelines;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Who is on kept items and on no record. Every method takes the viewer: items count that they read in full, no others. */
@Component
public class Strangers {
    /** So many come into question for a place on the first pages; what is beyond is found by its address. */
    private static final int MOST = 2_000;

    private final Mapped mapper;

    /** A record that somebody could be meant for, and why. */
    public record Likely(String address, String kind, UUID id, String key, String name, String why) {}

    /**
     * Who was met last for the first time.
     *
     * @param first when that was
     * @param all how many strangers there are
     */
    public record Newest(String address, String name, Instant first, long all) {}

    /** Something that was done. */
    public record TriageAction(
            UUID id,
            Instant at,
            String byLogin,
            String says,
            String undo,
            @Nullable Instant undoneAt) {}

    @Mapper
    interface Mapped {
        String MET = """
                FROM stranger t JOIN sighting s ON s.id = t.sighting
                """;

        /** Somebody who has a blind copy is known to its sender alone. */
        String OPEN = " AND (NOT t.blind OR s.person = ANY(#{viewer}::uuid[])) ";

        /** With a blank before it, as a text block drops those at its end. */
        String READ = " #{finds} AND (#{overseen}::uuid[] IS NULL OR s.person = ANY(#{overseen}::uuid[])) AND "
                + DecisionMapper.READS;

        String SEEN = MET + " WHERE" + READ + OPEN;

        /** Gathered from here on, and what is known of each then. */
        String HEAD = """
                SELECT g.*, EXISTS (SELECT FROM free_mail_domain f WHERE f.domain = '@' || g.domain) AS free_mail,
                       EXISTS (SELECT FROM account_domain d
                           WHERE d.domain IN ('@' || g.domain, '@' || split_part(g.address, '@', 2))) AS at_account,
                       g.name <> '' AND EXISTS (SELECT FROM contact c WHERE c.name = g.name) AS namesake
                FROM (SELECT t.address, min(t.domain) AS domain, coalesce(mode() WITHIN GROUP (ORDER BY nullif(t.name, '')), '') AS name,
                        count(DISTINCT s.item) FILTER (WHERE t.way = 'IN') AS "in",
                        count(DISTINCT s.item) FILTER (WHERE t.way = 'OUT') AS out,
                        count(DISTINCT s.item) FILTER (WHERE t.way = 'BESIDE') AS beside,
                        count(DISTINCT s.item) FILTER (WHERE t.way = 'MEETING') AS meetings,
                        count(DISTINCT s.item) AS items, count(DISTINCT s.item) FILTER (WHERE s.verdict = 'waiting') AS waiting,
                        count(DISTINCT s.person) AS people, min(s.at) AS first, max(s.at) AS last,
                        bool_or(EXISTS (SELECT FROM stranger_phone x JOIN contact_phone p ON p.hash = x.phone
                            WHERE x.sighting = t.sighting)) AS same_number
                """;

        /** Of those gathered, who is still to be settled. */
        String UNSETTLED = """
                    GROUP BY t.address) g
                LEFT JOIN stranger_hidden h ON h.address = g.address
                WHERE (h.until IS NULL OR g.last > h.until)
                  -- settled, though its items are still to be decided again
                  AND NOT EXISTS (SELECT FROM contact_address c WHERE c.address = g.address)
                  AND NOT EXISTS (SELECT FROM lead_address l WHERE l.address = g.address)
                  AND NOT EXISTS (SELECT FROM exclusion e WHERE e.person IS NULL AND e.policy IS NULL AND e.last_day IS NULL
                      AND e.key IN (g.address, '@' || g.domain, '@' || split_part(g.address, '@', 2)))
                """;

        String TAIL = UNSETTLED + """
                ORDER BY g."in" > 0 AND g.out > 0 DESC, g.meetings > 0 DESC, g.items DESC, g.address LIMIT #{most}
                """;

        /** Those whom these people met, to the service itself; whoever it is not to make anything of again is not among them. */
        @Select(HEAD + """
                FROM stranger t JOIN sighting s ON s.id = t.sighting
                WHERE s.person = ANY(#{people}) AND s.verdict IN ('logged', 'waiting') AND s.sharing <> 'OWNER' AND NOT t.blind
                  -- what somebody keeps to themselves, by closing it, makes nothing that all can see
                  AND NOT EXISTS (SELECT FROM """ + DecisionMapper.FACE_OF + """
                      f WHERE f.readers <@ f.mine)
                  AND NOT EXISTS (SELECT FROM ruling r WHERE r.item = s.item AND NOT r.opens
                      AND (r.by_person = s.person OR r.by_person = ANY(s.insiders)))
                  AND NOT EXISTS (SELECT FROM not_again n WHERE n.address = t.address)
                """ + TAIL)
        List<Stranger> metBy(@Param("people") UUID[] people, @Param("most") int most);

        @Insert("INSERT INTO not_again SELECT unnest(#{addresses}::text[]) ON CONFLICT DO NOTHING")
        int notAgain(@Param("addresses") String[] addresses);

        @Update("UPDATE contact SET made_by = #{by} WHERE key = ANY(#{keys})")
        int contactsMadeBy(@Param("keys") String[] keys, @Param("by") String by);

        @Update("UPDATE lead SET made_by = #{by} WHERE key = ANY(#{keys})")
        int leadsMadeBy(@Param("keys") String[] keys, @Param("by") String by);

        @Select("""
                SELECT c.name FROM contact_address a JOIN contact c ON c.id = a.contact WHERE a.address = #{address}
                UNION ALL SELECT d.name FROM lead_address a JOIN lead d ON d.id = a.lead WHERE a.address = #{address} LIMIT 1
                """)
        java.util.Optional<String> holder(@Param("address") String address);

        @Select("SELECT person FROM cover WHERE policy = #{policy} AND covered")
        List<UUID> coveredBy(@Param("policy") UUID policy);

        @Select(HEAD + SEEN + " AND (#{find} = '' OR t.address LIKE #{find} OR lower(t.name) LIKE #{find})" + TAIL)
        List<Stranger> strangers(
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("finds") boolean finds,
                @Param("viewer") UUID[] viewer,
                @Param("find") String find,
                @Param("most") int most);

        @Select("""
                SELECT g.address, g.name, g.first, count(*) OVER () AS all
                FROM (SELECT t.address, min(t.domain) AS domain, max(t.name) AS name, min(s.at) AS first, max(s.at) AS last
                """ + SEEN + UNSETTLED + " ORDER BY g.first DESC, g.address LIMIT 1")
        java.util.Optional<Newest> newest(
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("finds") boolean finds,
                @Param("viewer") UUID[] viewer);

        /** Those of some addresses, or under some domains, that the viewer may know of. */
        @Select("""
                SELECT DISTINCT t.address, min(t.domain) OVER (PARTITION BY t.address) AS domain,
                       max(t.name) OVER (PARTITION BY t.address) AS name
                """ + SEEN + " AND (t.address = ANY(#{addresses}) OR t.domain = ANY(#{domains}))")
        List<Meant> meant(
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("finds") boolean finds,
                @Param("viewer") UUID[] viewer,
                @Param("addresses") String[] addresses,
                @Param("domains") String[] domains);

        @Select("""
                WITH w AS (SELECT * FROM unnest(#{addresses}::text[], #{domains}::text[], #{names}::text[]) AS x(address, domain, name))
                SELECT w.address, 'account' AS kind, a.id, a.key, a.name, 'their domain is one of its own' AS why
                FROM w JOIN account_domain d ON d.domain IN ('@' || w.domain, '@' || split_part(w.address, '@', 2))
                    JOIN account a ON a.id = d.account
                UNION SELECT w.address, 'contact', c.id, c.key, c.name || coalesce(' of ' || a.name, ''), 'a contact of the same name'
                FROM w JOIN contact c ON c.name = w.name AND w.name <> '' LEFT JOIN account a ON a.id = c.account
                ORDER BY 1, 2 DESC, 5
                """)
        List<Likely> likely(
                @Param("addresses") String[] addresses,
                @Param("domains") String[] domains,
                @Param("names") String[] names);

        /** What points to a contact by what they wrote, of what the viewer reads. A number that more than two have is a switchboard's. */
        @Select("""
                SELECT t.address, 'contact' AS kind, c.id, c.key, c.name || coalesce(' of ' || b.name, '') AS name,
                       'they answered what was written to ' || y.address AS why
                """ + MET + """
                JOIN wrote w ON w.message = t.answers
                JOIN LATERAL (SELECT s.keys FROM sighting s
                    WHERE s.id = w.sighting AND """ + READ + """
                    ) o ON NOT t.address = ANY(o.keys)
                JOIN contact_address y ON y.address = ANY(o.keys) JOIN contact c ON c.id = y.contact
                LEFT JOIN account b ON b.id = c.account
                WHERE t.address = ANY(#{addresses})
                  AND (SELECT count(DISTINCT z.contact) FROM contact_address z WHERE z.address = ANY(o.keys)) = 1 AND """ + READ + OPEN + """
                UNION SELECT t.address, 'contact', c.id, c.key, c.name || coalesce(' of ' || b.name, ''),
                       'the same telephone number in their signature'
                """ + MET + """
                JOIN stranger_phone x ON x.sighting = s.id JOIN contact_phone p ON p.hash = x.phone JOIN contact c ON c.id = p.contact
                LEFT JOIN account b ON b.id = c.account
                WHERE t.way = 'IN' AND t.address = ANY(#{addresses})
                  AND (SELECT count(*) FROM contact_phone q WHERE q.phone = p.phone) <= 2 AND """ + READ + """
                ORDER BY 1, 6 DESC, 5
                """)
        List<Likely> alike(
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("finds") boolean finds,
                @Param("viewer") UUID[] viewer,
                @Param("addresses") String[] addresses);

        @Select("SELECT count(DISTINCT s.item) " + SEEN + " AND t.address = ANY(#{addresses})")
        long items(
                @Param("overseen") UUID @Nullable [] overseen,
                @Param("finds") boolean finds,
                @Param("viewer") UUID[] viewer,
                @Param("addresses") String[] addresses);

        @Insert("""
                INSERT INTO stranger_hidden SELECT a, coalesce((SELECT max(s.at) FROM stranger t JOIN sighting s ON s.id = t.sighting
                    WHERE t.address = a), now()), #{by} FROM unnest(#{addresses}::text[]) a
                ON CONFLICT (address) DO UPDATE SET until = excluded.until, by_login = excluded.by_login
                """)
        int hide(@Param("addresses") String[] addresses, @Param("by") String by);

        @Delete("DELETE FROM stranger_hidden WHERE address = ANY(#{addresses})")
        int unhide(@Param("addresses") String[] addresses);

        @Insert("INSERT INTO triage_deed (id, by_login, says, undo) VALUES (#{id}, #{by}, #{says}, #{undo})")
        int done(@Param("id") UUID id, @Param("by") String by, @Param("says") String says, @Param("undo") String undo);

        @Select("SELECT id, at, by_login, says, undo, undone_at FROM triage_deed ORDER BY at DESC LIMIT #{most}")
        List<TriageAction> deeds(@Param("most") int most);

        /** Takes it: a deed is undone once. */
        @Select("""
                UPDATE triage_deed SET undone_at = now() WHERE id = #{id} AND undone_at IS NULL
                RETURNING id, at, by_login, says, undo, undone_at
                """)
        @org.apache.ibatis.annotations.Options(flushCache = org.apache.ibatis.annotations.Options.FlushCachePolicy.TRUE)
        java.util.Optional<TriageAction> undo(@Param("id") UUID id);
    }

    /** A stranger that somebody means. */
    public record Meant(String address, String domain, String name) {}

    Strangers(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * Best first.
     *
     * @param find a part of an address or name; empty for all
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Stranger> all(Viewer viewer, String find, Instant now) {
        String pattern = find.isEmpty() ? "" : "%" + Like.escaped(find.toLowerCase(java.util.Locale.ROOT)) + "%";
        return Stranger.ranked(
                mapper.strangers(
                        viewer.oversight().limit(),
                        Timelines.readsAnything(viewer),
                        Timelines.ids(viewer),
                        pattern,
                        MOST),
                now);
    }

    /** The newest of them, and how many there are. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public java.util.Optional<Newest> newest(Viewer viewer) {
        return mapper.newest(viewer.oversight().limit(), Timelines.readsAnything(viewer), Timelines.ids(viewer));
    }

    /** Those whom the policy would make something of now, best first. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Stranger> meeting(UUID policy, Creation creation, Instant now) {
        List<UUID> people = coveredBy(policy);
        List<Stranger> met = people.isEmpty() ? List.of() : mapper.metBy(people.toArray(UUID[]::new), MOST);
        return Stranger.ranked(met.stream().filter(creation::meets).toList(), now);
    }

    /** Whom a policy covers. */
    public List<UUID> coveredBy(UUID policy) {
        return mapper.coveredBy(policy);
    }

    /** The contact or lead who has this address, by name. */
    public java.util.Optional<String> holder(String address) {
        return mapper.holder(address);
    }

    /** What the service made of somebody was taken back: it makes nothing of them again. */
    public void notAgain(List<String> addresses) {
        mapper.notAgain(addresses.toArray(String[]::new));
    }

    /** Says who made these records, by their keys. */
    public void madeBy(List<String> contacts, List<String> leads, String by) {
        mapper.contactsMadeBy(contacts.toArray(String[]::new), by);
        mapper.leadsMadeBy(leads.toArray(String[]::new), by);
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Meant> meant(Viewer viewer, List<String> addresses, List<String> domains) {
        return mapper.meant(
                viewer.oversight().limit(),
                Timelines.readsAnything(viewer),
                Timelines.ids(viewer),
                addresses.toArray(String[]::new),
                domains.toArray(String[]::new));
    }

    /** Contacts who they seem to be by what they wrote; the nearer evidence first. */
    public List<Likely> alike(Viewer viewer, List<Meant> meant) {
        return mapper.alike(
                viewer.oversight().limit(),
                Timelines.readsAnything(viewer),
                Timelines.ids(viewer),
                meant.stream().map(Meant::address).toArray(String[]::new));
    }

    public List<Likely> likely(List<Meant> meant) {
        return mapper.likely(
                meant.stream().map(Meant::address).toArray(String[]::new),
                meant.stream().map(Meant::domain).toArray(String[]::new),
                meant.stream().map(Meant::name).toArray(String[]::new));
    }

    /** How many items these are on, of those that the viewer reads. */
    public long items(Viewer viewer, List<String> addresses) {
        return mapper.items(
                viewer.oversight().limit(),
                Timelines.readsAnything(viewer),
                Timelines.ids(viewer),
                addresses.toArray(String[]::new));
    }

    /** Until something new of them is seen. */
    public void hide(List<String> addresses, String by) {
        mapper.hide(addresses.toArray(String[]::new), by);
    }

    public void unhide(List<String> addresses) {
        mapper.unhide(addresses.toArray(String[]::new));
    }

    public UUID done(String by, String says, String undo) {
        UUID id = UUID.randomUUID();
        mapper.done(id, by, says, undo);
        return id;
    }

    public List<TriageAction> deeds(int most) {
        return mapper.deeds(most);
    }

    public java.util.Optional<TriageAction> undo(UUID deed) {
        return mapper.undo(deed);
    }
}
