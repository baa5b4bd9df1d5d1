package jandrel.service.meetings;

import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.MeetingApi.BusyInfo;
import jandrel.api.MeetingApi.CalendarPage;
import jandrel.api.MeetingApi.DayInfo;
import jandrel.api.MeetingApi.FreePage;
import jandrel.api.MeetingApi.LayerInfo;
import jandrel.api.MeetingApi.MeetingInfo;
import jandrel.api.MeetingApi.SpanInfo;
import jandrel.core.decide.Rule;
import jandrel.core.item.MeetingItem;
import jandrel.core.timeline.FreeTime;
import jandrel.core.timeline.FreeTime.Span;
import jandrel.core.timeline.ResultWords;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.meetings.Meetings;
import jandrel.store.meetings.Meetings.Meeting;
import jandrel.store.people.People;
import jandrel.store.timeline.Follows;
import jandrel.store.timeline.MeetingResults;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The calendar of people, a team or a record, and when they are free. */
@RestController
class CalendarCalls {
    private static final int MOST = 5_000;
    private static final int MOST_PER_DAY = 50;
    private static final Duration LONGEST = Duration.ofDays(62);
    private final Meetings meetings;
    private final People people;
    private final Connections connections;
    private final Follows follows;
    private final MeetingResults results;
    private final Clock clock;

    CalendarCalls(
            Meetings meetings,
            People people,
            Connections connections,
            Follows follows,
            MeetingResults results,
            Clock clock) {
        this.results = results;
        this.follows = follows;
        this.meetings = meetings;
        this.people = people;
        this.connections = connections;
        this.clock = clock;
    }

    /**
     * Without people, a team or a record: everybody's.
     *
     * @param followed only what is about a record that the asker follows
     * @param perDay only the first so many of each day in the zone given, with the number of all; 0 for all
     */
    @GetMapping("/api/calendar")
    CalendarPage calendar(
            @RequestParam("from") Instant from,
            @RequestParam("until") Instant until,
            @RequestParam(name = "people", defaultValue = "") List<UUID> wanted,
            @RequestParam(name = "team", defaultValue = "") String team,
            @RequestParam(name = "record", required = false) @Nullable UUID record,
            @RequestParam(name = "followed", defaultValue = "false") boolean followed,
            @RequestParam(name = "perDay", defaultValue = "0") int perDay,
            @RequestParam(name = "zone", defaultValue = "UTC") String zone,
            @AuthenticationPrincipal SignedIn me) {
        List<UUID> records = new ArrayList<>();
        if (record != null) {
            records.add(record);
        }
        if (followed) {
            follows.of(me.id()).forEach(f -> records.add(f.id()));
            if (records.isEmpty()) {
                return new CalendarPage(List.of(), List.of(), false, List.of());
            }
        }
        Meetings.Wanted whose = wanted(from, until, wanted, team, records);
        Map<UUID, People.Person> everybody = everybody();
        Instant now = clock.instant();
        List<ResultWords> named = results.all();
        if (perDay > 0) {
            Meetings.Days days =
                    meetings.days(whose, me.viewer(), NamedZone.called(zone), Math.min(perDay, MOST_PER_DAY));
            long all = days.count().values().stream().mapToLong(Long::longValue).sum();
            return new CalendarPage(
                    days.meetings().stream()
                            .map(m -> info(m, everybody, me, now, named))
                            .toList(),
                    layers(days.meetings(), everybody, me),
                    all > days.meetings().size(),
                    days.count().entrySet().stream()
                            .map(e -> new DayInfo(e.getKey(), e.getValue()))
                            .toList());
        }
        List<Meeting> found = meetings.between(whose, me.viewer(), MOST + 1);
        List<Meeting> shown = found.size() > MOST ? found.subList(0, MOST) : found;
        return new CalendarPage(
                shown.stream().map(m -> info(m, everybody, me, now, named)).toList(),
                layers(shown, everybody, me),
                found.size() > MOST,
                List.of());
    }

    private Meetings.Wanted wanted(Instant from, Instant until, List<UUID> wanted, String team, List<UUID> records) {
        if (!from.isBefore(until) || Duration.between(from, until).compareTo(LONGEST) > 0) {
            throw Refusal.bad("“from” and “until” do not fit", "Ask for at most 62 days, the earlier first.");
        }
        List<UUID> all = new ArrayList<>(wanted);
        if (!team.isEmpty()) {
            people.all().stream().filter(p -> p.team().equals(team)).forEach(p -> all.add(p.id()));
            if (all.isEmpty()) {
                throw Refusal.bad("There is no team “" + team + "”", "Teams are compared as they are written.");
            }
        }
        return new Meetings.Wanted(from, until, all, records);
    }

    private Map<UUID, People.Person> everybody() {
        return people.all().stream().collect(Collectors.toMap(People.Person::id, Function.identity()));
    }

    static MeetingInfo info(
            Meeting m, Map<UUID, People.Person> everybody, SignedIn me, Instant now, List<ResultWords> results) {
        MeetingItem facts = m.facts();
        boolean declined = m.marks().contains(Rule.DECLINED_BY_ALL.name());
        boolean missed = m.marks().contains(Rule.MISSED_BY_WORD.name());
        return new MeetingInfo(
                m.id(),
                m.begins(),
                m.ends(),
                m.allDay(),
                m.visibility().name().toLowerCase(java.util.Locale.ROOT),
                facts == null
                        ? ""
                        : Standing.of(facts, declined, missed, m.outcome(), now).word(),
                facts == null ? "" : facts.sort().word(),
                facts == null ? "" : facts.subject(),
                facts == null ? "" : facts.place(),
                m.account(),
                m.owners().stream()
                        .map(o -> new OwnerInfo(o, name(everybody, o)))
                        .toList(),
                me.person() != null && m.owners().contains(me.person()),
                // which of somebody's calendars an outline stands in is theirs to know
                facts == null ? null : m.source(),
                facts == null ? "" : m.said() != null ? m.said() : ResultWords.of(results, facts));
    }

    private static String name(Map<UUID, People.Person> everybody, UUID id) {
        People.Person person = everybody.get(id);
        return person == null ? "" : person.name();
    }

    private List<LayerInfo> layers(List<Meeting> shown, Map<UUID, People.Person> everybody, SignedIn me) {
        Set<Integer> sources = new HashSet<>();
        shown.forEach(m -> {
            if (m.source() != null && m.facts() != null) {
                sources.add(m.source());
            }
        });
        Map<UUID, UUID> owners = connections.all().stream()
                .collect(Collectors.toMap(Connections.Listed::id, Connections.Listed::person));
        return connections.allSources().stream()
                .filter(s -> sources.contains(s.id()) && owners.containsKey(s.connection()))
                .map(s -> {
                    UUID person = java.util.Objects.requireNonNull(owners.get(s.connection()));
                    String label = person.equals(me.person()) ? s.label() : "Calendar";
                    return new LayerInfo(s.id(), label, person, name(everybody, person), s.colour());
                })
                .toList();
    }

    /**
     * Side by side, and when all of them are free. All that their calendars show counts: what is private, or about no customer, is as
     * busy as any other, and nothing is said of it.
     */
    @GetMapping("/api/calendar/free")
    FreePage free(
            @RequestParam("from") Instant from,
            @RequestParam("until") Instant until,
            @RequestParam(name = "people", defaultValue = "") List<UUID> wanted,
            @RequestParam(name = "team", defaultValue = "") String team,
            @RequestParam(name = "minutes", defaultValue = "30") int minutes,
            @RequestParam(name = "zone", defaultValue = "UTC") String zone,
            @RequestParam(name = "opens", defaultValue = "09:00") LocalTime opens,
            @RequestParam(name = "closes", defaultValue = "17:00") LocalTime closes,
            @AuthenticationPrincipal SignedIn me) {
        Meetings.Wanted whose = wanted(from, until, wanted, team, List.of());
        if (whose.people().isEmpty()) {
            throw Refusal.bad("Nobody is named", "Name people or a team.");
        }
        if (minutes < 5 || minutes > 24 * 60) {
            throw Refusal.bad("“minutes” is out of range", "It goes from 5 to 1440.");
        }
        // to find a time with colleagues is everybody's work, but nobody's who is there for some teams
        if (me.role() != Role.REP
                && !whose.people().stream()
                        .allMatch(p -> p.equals(me.person()) || me.oversight().covers(p))) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN,
                    "Not all of them are in the teams that you look after",
                    "Name people of those teams.");
        }
        List<Meetings.Busy> found = meetings.busy(whose, MOST * 4);
        Map<UUID, People.Person> everybody = everybody();
        List<Span> all = new ArrayList<>();
        List<BusyInfo> side = new ArrayList<>();
        for (UUID person : whose.people()) {
            List<Span> busy = FreeTime.merged(found.stream()
                    .filter(b -> b.person().equals(person))
                    .map(b -> new Span(b.begins(), b.ends()))
                    .toList());
            all.addAll(busy);
            side.add(new BusyInfo(person, name(everybody, person), spans(busy)));
        }
        FreeTime.Hours hours = new FreeTime.Hours(opens, closes, false, NamedZone.called(zone));
        return new FreePage(side, spans(FreeTime.free(all, new Span(from, until), hours, Duration.ofMinutes(minutes))));
    }

    private static List<SpanInfo> spans(List<Span> spans) {
        return spans.stream().map(s -> new SpanInfo(s.from(), s.until())).toList();
    }
}
