package jandrel.service.meetings;

import jandrel.api.MeetingApi.MeetingInfo;
import jandrel.api.MeetingApi.OutcomeCount;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.meetings.Meetings;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Meetings held and missed, week by week. */
@RestController
class OutcomeCalls {
    private static final int MOST_WEEKS = 8;
    private static final int MOST_A_WEEK = 20_000;
    private final Meetings meetings;
    private final People people;
    private final Clock clock;

    private record Key(UUID person, LocalDate week) {}

    OutcomeCalls(Meetings meetings, People people, Clock clock) {
        this.meetings = meetings;
        this.people = people;
        this.clock = clock;
    }

    /**
     * By person in the asker’s oversight and week, of what the asker reads in full; a meeting of several people counts for each. Weeks begin on Mondays.
     *
     * @param weeks the current one among them
     * @param zone whose weeks they are, such as {@code Europe/Oslo}
     */
    @GetMapping("/api/calendar/outcomes")
    List<OutcomeCount> outcomes(
            @RequestParam(name = "weeks", defaultValue = "4") int weeks,
            @RequestParam(name = "zone", defaultValue = "UTC") String zone,
            @AuthenticationPrincipal SignedIn me) {
        ZoneId at = NamedZone.called(zone);
        Instant now = clock.instant();
        LocalDate last = monday(now, at);
        LocalDate first = last.minusWeeks(Paging.within("weeks", weeks, MOST_WEEKS) - 1L);
        Map<UUID, People.Person> everybody =
                people.all().stream().collect(Collectors.toMap(People.Person::id, Function.identity()));
        Map<Key, long[]> counts = new HashMap<>();
        for (LocalDate week = first; !week.isAfter(last); week = week.plusWeeks(1)) {
            for (Meetings.Meeting meeting : begun(week, at, now, me)) {
                count(CalendarCalls.info(meeting, everybody, me, now, List.of()), at, week, counts);
            }
        }
        return counts.entrySet().stream()
                .filter(e -> !me.role().isLimitable()
                        || me.oversight().covers(e.getKey().person()))
                .map(e -> {
                    People.Person person = everybody.get(e.getKey().person());
                    return new OutcomeCount(
                            e.getKey().person(),
                            person == null ? "" : person.name(),
                            e.getKey().week().toString(),
                            e.getValue()[0],
                            e.getValue()[1]);
                })
                .sorted(Comparator.comparing(OutcomeCount::personName).thenComparing(OutcomeCount::week))
                .toList();
    }

    private List<Meetings.Meeting> begun(LocalDate week, ZoneId at, Instant now, SignedIn me) {
        Instant begins = week.atStartOfDay(at).toInstant();
        Instant ends = week.plusWeeks(1).atStartOfDay(at).toInstant();
        List<Meetings.Meeting> found = meetings.between(
                new Meetings.Wanted(begins, ends.isBefore(now) ? ends : now, List.of(), List.of()),
                me.viewer(),
                MOST_A_WEEK);
        if (found.size() == MOST_A_WEEK) {
            throw Refusal.of(
                    HttpStatus.CONTENT_TOO_LARGE,
                    "There are too many meetings to count",
                    "The week of " + week + " has more than " + MOST_A_WEEK + ".");
        }
        return found;
    }

    /** One that goes on from the week before belongs to that. */
    private static void count(MeetingInfo meeting, ZoneId at, LocalDate week, Map<Key, long[]> counts) {
        int outcome = List.of("held", "missed").indexOf(meeting.state());
        if (outcome >= 0 && monday(meeting.begins(), at).equals(week)) {
            meeting.owners().forEach(o -> counts.computeIfAbsent(new Key(o.id(), week), k -> new long[2])[outcome]++);
        }
    }

    private static LocalDate monday(Instant of, ZoneId at) {
        return LocalDate.ofInstant(of, at).with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    }
}
