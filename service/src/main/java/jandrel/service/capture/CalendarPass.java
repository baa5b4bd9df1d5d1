package jandrel.service.capture;

import jandrel.core.item.Item;
import jandrel.formats.calendar.CalendarLimits;
import jandrel.formats.calendar.CalendarReader;
import jandrel.formats.calendar.CalendarWindow;
import jandrel.formats.calendar.Occurrences;
import jandrel.sources.CalendarServer;
import jandrel.sources.CalendarServer.Calendar;
import jandrel.sources.CalendarServer.CalendarObject;
import jandrel.sources.CalendarServer.Changes;
import jandrel.store.Connections;
import jandrel.store.Connections.Connection;
import jandrel.store.Connections.Source;
import jandrel.store.CursorMove;
import jandrel.store.Intake;
import jandrel.store.Place;
import jandrel.store.Policies;
import jandrel.store.Positions;
import jandrel.store.Seen;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Reads what is new in the calendars of one person, and follows series into a window that moves on with the days. */
@Component
class CalendarPass {
    private static final int BATCH = 100;
    private static final int REFETCH = 500;
    private final Connections connections;
    private final Intake intake;
    private final Positions positions;
    private final Policies policies;
    private final Clock clock;
    private final CalendarReader reader = new CalendarReader(CalendarLimits.USUAL);

    CalendarPass(Connections connections, Intake intake, Positions positions, Policies policies, Clock clock) {
        this.connections = connections;
        this.intake = intake;
        this.positions = positions;
        this.policies = policies;
        this.clock = clock;
    }

    void over(CalendarServer server, Connection connection) {
        CalendarWindow window = window(connection);
        for (Calendar calendar : server.calendars()) {
            Source source = source(connection, calendar);
            if (!source.chosen()) {
                continue;
            }
            Place place = new Place(source.id(), connection.person(), connection.since());
            look(server, calendar, source, place, window);
        }
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

    /** Items for a rehearsal, by position; nothing of them is kept. */
    Map<String, Item> items(CalendarServer server, Connection connection, Source source, List<String> wanted) {
        CalendarWindow window = window(connection);
        List<String> hrefs = wanted.stream().map(CalendarPass::href).distinct().toList();
        Map<String, Item> items = new HashMap<>();
        for (int from = 0; from < hrefs.size(); from += BATCH) {
            for (CalendarObject object :
                    server.objects(source.name(), hrefs.subList(from, Math.min(hrefs.size(), from + BATCH)))) {
                reader.read(object.bytes(), window, source.id() + "/" + object.href()).found().stream()
                        .filter(o -> wanted.contains(object.href() + "#" + o.place()))
                        .forEach(o -> items.put(object.href() + "#" + o.place(), o.item()));
            }
        }
        return items;
    }

    private Source source(Connection connection, Calendar calendar) {
        return known(connection, calendar).orElseGet(() -> {
            connections.addSource(connection.id(), "calendar", calendar.href(), calendar.name());
            return known(connection, calendar).orElseThrow();
        });
    }

    private java.util.Optional<Source> known(Connection connection, Calendar calendar) {
        return connections.sources(connection.id()).stream()
                .filter(s -> s.name().equals(calendar.href()))
                .findFirst();
    }

    private void look(CalendarServer server, Calendar calendar, Source source, Place place, CalendarWindow window) {
        Changes changes = server.changes(calendar, source.cursor());
        boolean moved = source.expandedTo() == null || source.expandedTo().isBefore(window.until());
        Set<String> toRead = new TreeSet<>(changes.changed());
        if (moved && !changes.whole()) {
            toRead.addAll(connections.openSeries(source.id()));
        }
        List<String> wanted = positions.toRefetch(source.id(), REFETCH);
        wanted.forEach(position -> toRead.add(href(position)));
        toRead.removeAll(changes.removed());
        Pass pass = new Pass(server, calendar, source, place, window, changes.whole());
        pass.remove(changes.removed());
        pass.read(new ArrayList<>(toRead));
        if (changes.whole()) {
            pass.removeUnlisted(new HashSet<>(changes.changed()));
        }
        if (!changes.token().equals(source.cursor()) || moved) {
            CursorMove move = new CursorMove(source.id(), source.cursor(), changes.token(), window.until());
            intake.take(place, List.of(), List.of(), move);
        }
        if (!wanted.isEmpty()) {
            positions.cannotRefetch(source.id(), wanted);
        }
    }

    static String href(String position) {
        return position.substring(0, position.lastIndexOf('#'));
    }

    /** One look at one calendar. */
    private final class Pass {
        private final CalendarServer server;
        private final Calendar calendar;
        private final Source source;
        private final Place place;
        private final CalendarWindow window;
        private final Map<String, List<String>> known = new HashMap<>();
        private final Set<String> open;
        private final boolean whole;

        Pass(
                CalendarServer server,
                Calendar calendar,
                Source source,
                Place place,
                CalendarWindow window,
                boolean whole) {
            this.server = server;
            this.calendar = calendar;
            this.source = source;
            this.place = place;
            this.window = window;
            this.whole = whole;
            this.open = new HashSet<>(connections.openSeries(source.id()));
            if (whole) {
                positions
                        .all(source.id())
                        .forEach(p -> known.computeIfAbsent(href(p), h -> new ArrayList<>())
                                .add(p));
            }
        }

        private Collection<String> knownAt(String href) {
            return whole ? known.getOrDefault(href, List.of()) : positions.under(source.id(), href + "#");
        }

        void read(List<String> hrefs) {
            for (int from = 0; from < hrefs.size(); from += BATCH) {
                List<String> batch = hrefs.subList(from, Math.min(hrefs.size(), from + BATCH));
                Map<String, byte[]> objects = new HashMap<>();
                for (CalendarObject object : server.objects(calendar.href(), batch)) {
                    objects.put(object.href(), object.bytes());
                }
                List<Seen> seen = new ArrayList<>();
                Set<String> gone = new TreeSet<>();
                for (String href : batch) {
                    gone.addAll(knownAt(href));
                    byte[] object = objects.get(href);
                    if (object != null) {
                        seen.addAll(occurrences(href, object));
                    }
                }
                seen.forEach(s -> gone.remove(s.position()));
                intake.take(place, seen, gone, null);
            }
        }

        private List<Seen> occurrences(String href, byte[] object) {
            Occurrences read = reader.read(object, window, source.id() + "/" + href);
            if (read.goesOn() != open.contains(href)) {
                if (read.goesOn()) {
                    connections.addOpenSeries(source.id(), href);
                } else {
                    connections.removeOpenSeries(source.id(), href);
                }
            }
            return read.found().stream()
                    .map(o -> new Seen(href + "#" + o.place(), o.item(), o::content))
                    .toList();
        }

        void remove(List<String> hrefs) {
            Set<String> gone = new TreeSet<>();
            hrefs.forEach(href -> {
                gone.addAll(knownAt(href));
                if (open.contains(href)) {
                    connections.removeOpenSeries(source.id(), href);
                }
            });
            if (!gone.isEmpty()) {
                intake.take(place, List.of(), gone, null);
            }
        }

        void removeUnlisted(Set<String> listed) {
            remove(known.keySet().stream()
                    .filter(href -> !listed.contains(href))
                    .toList());
        }
    }
}
