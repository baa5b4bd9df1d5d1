package jandrel.service.timeline;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jandrel.api.DecisionApi.DayCounts;
import jandrel.core.decide.Verdict;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.DailyCounts;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Decisions by day, for a plot. */
@RestController
class DailyCalls {
    private static final int MOST_DAYS = 370;
    private final DailyCounts counts;
    private final Clock clock;
    /** A page that many have open is counted once for all of them. */
    private final Cache<Asked, List<DayCounts>> lately = Caffeine.newBuilder()
            .maximumSize(500)
            .expireAfterWrite(Duration.ofSeconds(10))
            .build();

    private record Asked(
            LocalDate today,
            int days,
            ZoneId zone,
            @Nullable UUID own) {}

    DailyCalls(DailyCounts counts, Clock clock) {
        this.counts = counts;
        this.clock = clock;
    }

    /**
     * Up to today and with every day in between; what is still to come is not among them.
     *
     * @param zone whose days they are, such as {@code Europe/Oslo}
     */
    @GetMapping("/api/decisions/days")
    List<DayCounts> days(
            @RequestParam(name = "days", defaultValue = "30") int days,
            @RequestParam(name = "zone", defaultValue = "UTC") String zone,
            @AuthenticationPrincipal SignedIn me) {
        if (days < 1 || days > MOST_DAYS) {
            throw Refusal.bad("“days” is out of range", "It goes from 1 to " + MOST_DAYS + ".");
        }
        ZoneId at = zone(zone);
        UUID own = me.role() == Role.REP ? Objects.requireNonNullElse(me.person(), me.id()) : null;
        Asked asked = new Asked(LocalDate.ofInstant(clock.instant(), at), days, at, own);
        return Objects.requireNonNull(lately.get(asked, a -> counted(a, me)));
    }

    private List<DayCounts> counted(Asked asked, SignedIn me) {
        LocalDate first = asked.today().minusDays(asked.days() - 1L);
        Map<LocalDate, Map<Verdict, Long>> days = new TreeMap<>();
        first.datesUntil(asked.today().plusDays(1)).forEach(day -> days.put(day, new EnumMap<>(Verdict.class)));
        counts.of(
                        first.atStartOfDay(asked.zone()).toInstant(),
                        asked.today().plusDays(1).atStartOfDay(asked.zone()).toInstant(),
                        asked.zone(),
                        me.viewer())
                .forEach(c -> Objects.requireNonNull(days.get(c.day())).put(verdict(c.verdict()), c.count()));
        return days.entrySet().stream()
                .map(e -> new DayCounts(
                        e.getKey().toString(),
                        e.getValue().getOrDefault(Verdict.LOGGED, 0L),
                        e.getValue().getOrDefault(Verdict.WAITING, 0L),
                        e.getValue().getOrDefault(Verdict.LEFT_OUT, 0L),
                        e.getValue().getOrDefault(Verdict.UNREADABLE, 0L)))
                .toList();
    }

    private static Verdict verdict(String word) {
        for (Verdict verdict : Verdict.values()) {
            if (verdict.word().equals(word)) {
                return verdict;
            }
        }
        throw new IllegalStateException("there is no such verdict");
    }

    private static ZoneId zone(String zone) {
        try {
            return ZoneId.of(zone);
        } catch (DateTimeException unknown) {
            throw Refusal.bad("There is no zone “" + zone + "”", "Write it like Europe/Oslo.");
        }
    }
}
