package jandrel.store.triage;

import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.DecisionMapper;
import jandrel.store.timeline.Timelines;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What the company's own data says could be excluded. */
@Component
public class ExclusionSuggestions {
    private final Mapped mapper;

    /**
     * What the company's own data says could be excluded.
     *
     * @param key the domain, with a leading {@code @}
     * @param why {@code one-way}: it only ever writes to us; {@code own}: people of ours have addresses there, and it is not told
     *     to be ours; {@code unanswered}: many write from there and nobody answers
     * @param items how many items it would touch
     * @param people how many of ours they reach
     */
    public record Suggestion(String key, String why, long items, long people) {}

    @Mapper
    interface Mapped {
        /** Senders that many a message comes from, and that nobody of ours ever writes to. Judged by what waits for a match. */
        @Select("""
                WITH waiting AS (
                    SELECT s.item, s.person, s.facts::jsonb AS f, """ + DecisionMapper.READS + """
                     AS readable FROM sighting s WHERE s.verdict = 'waiting' AND s.kind = 'mail'),
                parties AS (
                    SELECT w.item, w.person, w.readable, p ->> 'part' AS part, '@' || split_part(p ->> 'address', '@', 2) AS key
                    FROM waiting w, jsonb_array_elements(w.f -> 'parties') p),
                senders AS (
                    SELECT key, count(DISTINCT item) AS items, count(DISTINCT person) AS people FROM parties WHERE part = 'FROM'
                    -- a number behind which few people are tells what is theirs
                    GROUP BY key HAVING count(DISTINCT item) >= #{least} AND (bool_and(readable) OR count(DISTINCT person) >= #{several}))
                SELECT key, 'one-way' AS why, items, people FROM senders n
                WHERE NOT EXISTS (SELECT 1 FROM parties o WHERE o.key = n.key AND o.part IN ('TO', 'CC', 'BCC'))
                  AND key NOT IN (SELECT domain FROM own_domain) AND key NOT IN (SELECT domain FROM free_mail_domain)
                  AND key NOT IN (SELECT key FROM exclusion) AND key NOT IN (SELECT domain FROM account_domain)
                UNION ALL
                SELECT '@' || split_part(address, '@', 2), 'own', 0, count(DISTINCT person) FROM person_address
                WHERE '@' || split_part(address, '@', 2) NOT IN (SELECT domain FROM own_domain)
                  AND '@' || split_part(address, '@', 2) NOT IN (SELECT domain FROM free_mail_domain)
                GROUP BY 1
                ORDER BY 3 DESC, 1 LIMIT 30
                """)
        List<Suggestion> find(@Param("least") int least, @Param("several") int several, @Param("viewer") UUID[] viewer);
    }

    ExclusionSuggestions(Mapped mapper) {
        this.mapper = mapper;
    }

    /**
     * What the viewer may read, and what several people have.
     *
     * @param least how many messages make a sender heavy
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Suggestion> find(int least, Viewer viewer) {
        return mapper.find(least, Visibility.SEVERAL, Timelines.ids(viewer));
    }
}
