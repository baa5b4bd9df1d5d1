package jandrel.service.timeline;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jandrel.api.DecisionApi.DayCounts;
import jandrel.api.DecisionApi.PolicyCounts;
import jandrel.core.visibility.Oversight;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Paging;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.DailyCounts;
import jandrel.store.timeline.DailyCounts.Day;
import jandrel.store.timeline.PolicyTallies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Decisions by day, for a plot, and by policy. */
@RestController
class DailyCalls {
    private static final int MOST_DAYS = 370;
    private final DailyCounts counts;
    private final PolicyTallies policies;
    private final Clock clock;
    /** A page that many have open is counted once for all of them. */
    private final Cache<Asked, List<DayCounts>> lately = Caffeine.newBuilder()
            .maximumSize(500)
            .expireAfterWrite(Duration.ofSeconds(10))
            .build();

    private record Asked(LocalDate today, int days, ZoneId zone, Oversight oversight) {}

    DailyCalls(DailyCounts counts, PolicyTallies policies, Clock clock) {
        this.counts = counts;
        this.policies = policies;
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
        ZoneId at = NamedZone.called(zone);
        Asked asked = new Asked(
                LocalDate.ofInstant(clock.instant(), at), Paging.within("days", days, MOST_DAYS), at, me.oversight());
        return Objects.requireNonNull(lately.get(asked, this::counted));
    }

    /** Under each policy that is on, in their order. */
    @GetMapping("/api/decisions/policies")
    List<PolicyCounts> policies(@AuthenticationPrincipal SignedIn me) {
        return policies.all(me.oversight()).stream()
                .map(p -> new PolicyCounts(
                        p.policy(),
                        p.name(),
                        p.version(),
                        p.changedAt(),
                        p.changedBy(),
                        p.people(),
                        p.logged(),
                        p.waiting(),
                        p.leftOut(),
                        p.unreadable()))
                .toList();
    }

    private List<DayCounts> counted(Asked asked) {
        LocalDate first = asked.today().minusDays(asked.days() - 1L);
        List<Instant> starts = first.datesUntil(asked.today().plusDays(2))
                .map(day -> day.atStartOfDay(asked.zone()).toInstant())
                .toList();
        Map<Integer, Day> counted = counts.of(starts, asked.oversight().limit()).stream()
                .collect(Collectors.toMap(Day::day, Function.identity()));
        return IntStream.range(0, asked.days())
                .mapToObj(i -> counted.getOrDefault(i, Day.empty(i)))
                .map(d -> new DayCounts(
                        first.plusDays(d.day()).toString(), d.logged(), d.waiting(), d.leftOut(), d.unreadable()))
                .toList();
    }
}
