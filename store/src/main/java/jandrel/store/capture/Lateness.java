package jandrel.store.capture;

import jandrel.store.kernel.ReadTimeout;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * How long mail took from its arrival in a mailbox to its timeline: a histogram for each day, in which a message counts at the least
 * bound that it kept. What a median or a percentile says is therefore a bound that was kept, too.
 */
@Component
public class Lateness {
    /** In seconds; the last stands for anything longer. */
    static final List<Integer> BOUNDS = List.of(
            1, 2, 3, 5, 8, 10, 15, 20, 30, 45, 60, 90, 120, 180, 300, 600, 900, 1_800, 3_600, 7_200, 14_400, 43_200,
            86_400, 604_800);

    private final Mapped mapper;
    private final Clock clock;

    /**
     * @param messages how many were measured
     * @param median the bound, in seconds, that half of them kept; 0 when there are none
     * @param most the bound that 95 of a hundred kept
     */
    public record Measured(long messages, int median, int most) {}

    record Kept(int seconds, long messages) {}

    @Mapper
    interface Mapped {
        @Insert("""
                INSERT INTO lateness SELECT #{day}::date, s, n FROM unnest(#{seconds}::int[], #{messages}::bigint[]) AS m (s, n)
                ORDER BY s ON CONFLICT (day, seconds) DO UPDATE SET messages = lateness.messages + excluded.messages
                """)
        int add(@Param("day") String day, @Param("seconds") Integer[] seconds, @Param("messages") Long[] messages);

        @Select("""
                SELECT seconds, sum(messages) AS messages FROM lateness WHERE day >= #{from}::date AND day <= #{until}::date
                GROUP BY seconds ORDER BY seconds
                """)
        @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
        List<Kept> between(@Param("from") String from, @Param("until") String until);
    }

    Lateness(Mapped mapper, Clock clock) {
        this.mapper = mapper;
        this.clock = clock;
    }

    /** @param arrivals when each message arrived that is on its timeline now, or decided to be on none */
    @Transactional
    public void arrived(Collection<Instant> arrivals) {
        if (arrivals.isEmpty()) {
            return;
        }
        Instant now = clock.instant();
        Map<Integer, Long> counted = new TreeMap<>();
        arrivals.forEach(at -> counted.merge(bound(Duration.between(at, now)), 1L, Long::sum));
        mapper.add(
                today().toString(),
                counted.keySet().toArray(Integer[]::new),
                counted.values().toArray(Long[]::new));
    }

    /** A server's clock may run ahead of ours. */
    static int bound(Duration taken) {
        long millis = Math.max(0, taken.toMillis());
        return BOUNDS.stream().filter(b -> millis <= b * 1_000L).findFirst().orElse(BOUNDS.get(BOUNDS.size() - 1));
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Measured last(int days) {
        return between(today().minusDays(days - 1L), today());
    }

    /** @param until the last day */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Measured between(LocalDate from, LocalDate until) {
        List<Kept> kept = mapper.between(from.toString(), until.toString());
        long all = kept.stream().mapToLong(Kept::messages).sum();
        return new Measured(all, at(kept, all, 0.5), at(kept, all, 0.95));
    }

    private static int at(List<Kept> kept, long all, double share) {
        long so = 0;
        for (Kept k : kept) {
            so += k.messages();
            if (so >= Math.ceil(all * share)) {
                return k.seconds();
            }
        }
        return 0;
    }

    private LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    }
}
