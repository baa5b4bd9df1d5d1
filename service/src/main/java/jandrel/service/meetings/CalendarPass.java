package jandrel.service.meetings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jandrel.core.item.Item;
import jandrel.core.reconcile.Exchange;
import jandrel.formats.calendar.CalendarLimits;
import jandrel.formats.calendar.CalendarReader;
import jandrel.formats.calendar.CalendarWindow;
import jandrel.formats.calendar.Occurrences;
import jandrel.service.capture.CalendarSync;
import jandrel.service.capture.MassChange;
import jandrel.service.capture.Prefetch;
import jandrel.service.meetings.Outgoing.Settled;
import jandrel.sources.CalendarServer;
import jandrel.sources.CalendarServer.Calendar;
import jandrel.sources.DavChanges;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorMove;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.CalendarRun;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.policy.Policies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads what is new in the calendars of one person, and follows series into a window that moves on with the days. */
@Component
public class CalendarPass implements CalendarSync {
    private static final int BATCH = 250;
    private static final long LOT_BYTES = 2L * 1024 * 1024;
    private static final int REFETCH = 500;
    private final Connections connections;
    private final Intake intake;
    private final Positions positions;
    private final Policies policies;
    private final Clock clock;
    private final CalendarReader reader = new CalendarReader(CalendarLimits.USUAL);

    private final Outgoing outgoing;
    private final ManagedMeetings plans;
    private final Cache<UUID, List<Calendar>> known = Caffeine.newBuilder()
            .expireAfterWrite(Duration.ofMinutes(30))
            .maximumSize(20_000)
            .build();

    CalendarPass(
            ManagedMeetings plans,
            Connections connections,
            Intake intake,
            Positions positions,
            Policies policies,
            Outgoing outgoing,
            Clock clock) {
        this.plans = plans;
        this.outgoing = outgoing;
        this.connections = connections;
        this.intake = intake;
        this.positions = positions;
        this.policies = policies;
        this.clock = clock;
    }

    @Override
    public long over(CalendarServer server, Connection connection) {
        long read = 0;
        CalendarWindow window = window(connection);
        List<Calendar> calendars = calendars(server, connection);
        try {
            List<Settled> sent = outgoing.pending(server, connection);
            Map<String, Source> sources = new HashMap<>();
            connections.sources(connection.id()).forEach(s -> sources.put(s.name(), s));
            for (Calendar calendar : calendars) {
                Source source = Objects.requireNonNull(sources.get(calendar.href()));
                if (source.chosen()) {
                    SourceRef place = new SourceRef(
                            source.id(), connection.person(), connection.since(), connection.generation());
                    List<Settled> sentThere = sent.stream()
                            .filter(s -> Objects.equals(s.source(), source.id()))
                            .toList();
                    read += look(server, calendar, connection, source, place, window, sentThere);
                }
            }
            // what vanished between being written and the first listing that could have named it is in no listing at
            // all
            outgoing.settle(server, connection, sent.stream().map(Settled::plan).toList());
            return read;
        } catch (SourceTrouble trouble) {
            known.invalidate(connection.id());
            throw trouble;
        }
    }

    /** Which calendars there are is asked now and then alone: a look without news is one request for each. */
    private List<Calendar> calendars(CalendarServer server, Connection connection) {
        List<Calendar> listed = known.getIfPresent(connection.id());
        if (listed == null) {
            listed = server.calendars();
            listed.forEach(c -> connections.addCalendar(connection.id(), c.href(), c.name(), c.colour()));
            connections.noteScheduling(connection.id(), server.schedules());
            known.put(connection.id(), listed);
        }
        return listed;
    }

    private CalendarWindow window(Connection connection) {
        int ahead =
                policies.of(connection.person()).map(p -> p.scope().aheadDays()).orElse(0);
        Instant until = clock.instant()
                .atOffset(ZoneOffset.UTC)
                .toLocalDate()
                .plusDays(ahead + 1L)
                .atStartOfDay()
                .toInstant(ZoneOffset.UTC);
        return new CalendarWindow(connection.since(), until);
    }

    @Override
    public void showAgain(UUID person) {
        plans.showAgain(person);
    }

    @Override
    public Map<String, Item> items(CalendarServer server, Connection connection, Source source, List<String> wanted) {
        CalendarWindow window = window(connection);
        List<String> hrefs = wanted.stream().map(CalendarPass::href).distinct().toList();
        Map<String, Item> items = new HashMap<>();
        for (int from = 0; from < hrefs.size(); from += BATCH) {
            for (DavObject object :
                    server.objects(source.name(), hrefs.subList(from, Math.min(hrefs.size(), from + BATCH)))) {
                reader.read(object.bytes(), window, source.id() + "/" + object.href()).found().stream()
                        .filter(o -> wanted.contains(object.href() + "#" + o.place()))
                        .forEach(o -> items.put(object.href() + "#" + o.place(), o.item()));
            }
        }
        return items;
    }

    private long look(
            CalendarServer server,
            Calendar calendar,
            Connection connection,
            Source source,
            SourceRef place,
            CalendarWindow window,
            List<Settled> sent) {
        DavChanges changes = server.changes(calendar, source.cursor());
        boolean moved = source.expandedTo() == null || source.expandedTo().isBefore(window.until());
        Set<String> toRead = new TreeSet<>(changes.changed());
        List<String> open = connections.openSeries(source.id());
        if (moved && !changes.whole()) {
            toRead.addAll(open);
        }
        List<String> wanted = positions.toRefetch(source.id(), REFETCH);
        wanted.forEach(position -> toRead.add(href(position)));
        toRead.removeAll(changes.removed());
        Pass pass = new Pass(server, calendar, source, place, window, changes.whole(), open);
        List<String> gone = changes.whole() ? pass.unlisted(new HashSet<>(changes.changed())) : changes.removed();
        if (isHeld(source, gone)) {
            return 0;
        }
        pass.remove(gone);
        pass.read(new ArrayList<>(toRead));
        List<String> touched = new ArrayList<>(toRead);
        touched.addAll(gone);
        List<Settled> settled = new ArrayList<>(sent);
        settled.addAll(outgoing.changed(server, connection, source, touched));
        if (!toRead.isEmpty() || !gone.isEmpty() || !sent.isEmpty()) {
            connections.calendarRan(source.id(), run(toRead.size(), gone.size(), settled));
        }
        if (!changes.token().equals(source.cursor()) || moved) {
            CursorMove move = new CursorMove(source.id(), source.cursor(), changes.token(), window.until());
            intake.take(place, List.of(), List.of(), move);
        }
        // what was read is decided; it may have been marked once more since
        List<String> missing =
                wanted.stream().filter(p -> !pass.found.contains(p)).toList();
        if (!missing.isEmpty()) {
            positions.cannotRefetch(source.id(), missing);
        }
        return toRead.size();
    }

    /** A calendar out of which much has vanished at once is left alone until somebody has said that this is meant. */
    private boolean isHeld(Source source, List<String> gone) {
        Set<String> all = new HashSet<>();
        if (!gone.isEmpty()) {
            positions.all(source.id()).forEach(position -> all.add(href(position)));
        }
        return MassChange.holds(connections, source, gone, all);
    }

    private static CalendarRun run(int read, int gone, List<Settled> settled) {
        return new CalendarRun(
                read,
                gone,
                count(settled, Exchange.Outcome.SENT),
                count(settled, Exchange.Outcome.RECEIVED),
                count(settled, Exchange.Outcome.MERGED),
                count(settled, null));
    }

    private static int count(List<Settled> settled, Exchange.@Nullable Outcome outcome) {
        return (int) settled.stream().filter(s -> s.outcome() == outcome).count();
    }

    public static String href(String position) {
        return position.substring(0, position.lastIndexOf('#'));
    }

    private record Batch(List<String> hrefs, Map<String, Occurrences> read) {}

    /** One look at one calendar. */
    private final class Pass {
        private final CalendarServer server;
        private final Calendar calendar;
        private final Source source;
        private final SourceRef place;
        private final CalendarWindow window;
        private final Map<String, List<String>> known = new HashMap<>();
        private final Set<String> open;
        private final Set<String> found = new HashSet<>();
        private final boolean whole;

        Pass(
                CalendarServer server,
                Calendar calendar,
                Source source,
                SourceRef place,
                CalendarWindow window,
                boolean whole,
                List<String> open) {
            this.server = server;
            this.calendar = calendar;
            this.source = source;
            this.place = place;
            this.window = window;
            this.whole = whole;
            this.open = Set.copyOf(open);
            if (whole) {
                positions
                        .all(source.id())
                        .forEach(p -> known.computeIfAbsent(href(p), h -> new ArrayList<>())
                                .add(p));
            }
        }

        private Set<String> knownAt(Collection<String> hrefs) {
            if (!whole) {
                return new TreeSet<>(positions.under(source.id(), hrefs));
            }
            Set<String> there = new TreeSet<>();
            hrefs.forEach(href -> there.addAll(known.getOrDefault(href, List.of())));
            return there;
        }

        void read(List<String> hrefs) {
            List<List<String>> batches = new ArrayList<>();
            for (int from = 0; from < hrefs.size(); from += BATCH) {
                batches.add(hrefs.subList(from, Math.min(hrefs.size(), from + BATCH)));
            }
            if (batches.size() == 1) {
                record(batches.get(0), parsed(batches.get(0), server.objects(calendar.href(), batches.get(0))));
                return;
            }
            try (Prefetch<String, Batch> ahead = new Prefetch<>(
                    batches.iterator(),
                    batch -> LOT_BYTES,
                    batch -> server.objects(calendar.href(), batch),
                    (batch, objects) -> new Batch(batch, parsed(batch, objects)))) {
                for (Batch batch = ahead.next(); batch != null; batch = ahead.next()) {
                    record(batch.hrefs(), batch.read());
                }
            }
        }

        private Map<String, Occurrences> parsed(List<String> batch, List<DavObject> objects) {
            Map<String, Occurrences> parsed = new HashMap<>();
            for (DavObject object : objects) {
                if (batch.contains(object.href())) {
                    parsed.put(object.href(), reader.read(object.bytes(), window, source.id() + "/" + object.href()));
                }
            }
            return parsed;
        }

        private void record(List<String> batch, Map<String, Occurrences> read) {
            List<FetchedItem> seen = new ArrayList<>();
            List<String> goOn = new ArrayList<>();
            List<String> end = new ArrayList<>();
            Set<String> gone = knownAt(batch);
            for (String href : batch) {
                Occurrences occurrences = read.get(href);
                if (occurrences != null) {
                    occurrences
                            .found()
                            .forEach(o -> seen.add(new FetchedItem(href + "#" + o.place(), o.item(), o::content)));
                    (occurrences.goesOn() ? goOn : end).add(href);
                }
            }
            open(goOn, end);
            seen.forEach(s -> {
                gone.remove(s.position());
                found.add(s.position());
            });
            intake.take(place, seen, gone, null);
        }

        /** Which series go on after the window, as far as that is not known. */
        private void open(List<String> goOn, List<String> end) {
            String[] more = goOn.stream().filter(href -> !open.contains(href)).toArray(String[]::new);
            String[] less = end.stream().filter(open::contains).toArray(String[]::new);
            if (more.length > 0) {
                connections.addOpenSeries(source.id(), more);
            }
            if (less.length > 0) {
                connections.removeOpenSeries(source.id(), less);
            }
        }

        void remove(List<String> hrefs) {
            Set<String> gone = new TreeSet<>();
            for (int from = 0; from < hrefs.size(); from += BATCH) {
                List<String> batch = hrefs.subList(from, Math.min(hrefs.size(), from + BATCH));
                gone.addAll(knownAt(batch));
                open(List.of(), batch);
            }
            if (!gone.isEmpty()) {
                intake.take(place, List.of(), gone, null);
            }
        }

        List<String> unlisted(Set<String> listed) {
            return known.keySet().stream()
                    .filter(href -> !listed.contains(href))
                    .sorted()
                    .toList();
        }
    }
}
