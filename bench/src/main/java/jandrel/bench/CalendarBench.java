package jandrel.bench;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import jandrel.formats.calendar.CalendarLimits;
import jandrel.formats.calendar.CalendarReader;
import jandrel.formats.calendar.CalendarWindow;
import jandrel.store.meetings.Meetings;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;

/** Calendars: occurrences, a team's month, the first read of a large calendar, and many calendars with nothing new. */
final class CalendarBench {
    private static final int EVENTS = 5_000;
    private static final int SOURCES = 1_000;
    private static final int ROUNDS = 3;
    private static final int READS = 600;
    private final Stand stand;
    private final DavFloor dav;

    CalendarBench(Stand stand) {
        this.stand = stand;
        this.dav = new DavFloor(
                stand, "diary/", ".ics", "urn:ietf:params:xml:ns:caldav", "calendar-multiget", "calendar-data");
    }

    void run() throws Exception {
        occurrences();
        month();
        firstRead();
        manySources();
    }

    /** Only the first read. */
    void first() throws Exception {
        firstRead();
    }

    /** On one core: files of weekly and daily series with zones, exceptions and a moved occurrence each, over a year. */
    private static void occurrences() {
        List<byte[]> files = new ArrayList<>();
        String[] zones = {"Europe/Oslo", "America/New_York", "Asia/Kolkata", "W. Europe Standard Time"};
        String[] rules = {"FREQ=DAILY", "FREQ=WEEKLY;BYDAY=MO,WE,FR", "FREQ=DAILY;BYDAY=MO,TU,WE,TH,FR", "FREQ=WEEKLY"};
        for (int i = 0; i < 400; i++) {
            String zone = zones[i % zones.length];
            files.add(String.join(
                            "\r\n",
                            "BEGIN:VCALENDAR",
                            "VERSION:2.0",
                            "BEGIN:VEVENT",
                            "UID:series-" + i,
                            "DTSTAMP:20250101T000000Z",
                            "DTSTART;TZID=" + zone + ":20250106T1" + i % 8 + "0000",
                            "DURATION:PT30M",
                            "RRULE:" + rules[i / 4 % rules.length],
                            "EXDATE;TZID=" + zone + ":20260107T1" + i % 8 + "0000",
                            "SUMMARY:Series " + i,
                            "ATTENDEE;CN=Bram:mailto:bram@a1.example",
                            "END:VEVENT",
                            "END:VCALENDAR",
                            "")
                    .getBytes(StandardCharsets.UTF_8));
        }
        CalendarReader reader = new CalendarReader(CalendarLimits.USUAL);
        CalendarWindow window =
                new CalendarWindow(Instant.parse("2026-01-01T00:00:00Z"), Instant.parse("2027-01-01T00:00:00Z"));
        long found = 0;
        long began = 0;
        for (int round = 0; round < 8; round++) {
            if (round == 4) {
                found = 0;
                began = System.nanoTime();
            }
            for (byte[] file : files) {
                found += reader.read(file, window, "x").found().size();
            }
        }
        double took = (System.nanoTime() - began) / 1e9;
        Figures.line("occurrences of series, whole items, one core", "%,.0f a second   (bar 100,000)", found / took);
    }

    /** The month of three hundred people among a million activities, a fifth of them meetings. */
    private void month() throws SQLException {
        try (Opened store = new Opened(stand, "bench_month")) {
            Database database = store.database();
            database.run("""
                    INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version)
                    SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, CASE WHEN n %% 5 = 0 THEN 'meeting' ELSE 'mail' END, timestamptz '2025-01-01' + n * interval '40 seconds',
                           timestamptz '2025-01-01' + n * interval '40 seconds' + interval '30 minutes', false, 'About ' || n, 'Contact',
                           jsonb_build_object('identity', 'meeting:' || n || '|', 'uid', 'u' || n, 'at', timestamptz '2025-01-01' + n * interval '40 seconds',
                           'ends', timestamptz '2025-01-01' + n * interval '40 seconds' + interval '30 minutes', 'allDay', false, 'zone', '', 'parties',
                           jsonb_build_array(jsonb_build_object('part', 'ATTENDEE', 'address', 'c' || n %% 900 || '@a.example', 'name', 'Contact')),
                           'subject', 'About ' || n, 'place', '', 'online', '', 'privacy', 'PUBLIC', 'state', 'PLANNED', 'sequence', 0, 'stamp', 0)::text,
                           CASE WHEN n %% 3 = 0 THEN ARRAY[md5('p' || n %% 300)::uuid] END, ARRAY[md5('p' || n / 5 %% 300)::uuid], ARRAY[]::uuid[], ''
                    FROM generate_series(0, %d) n""".formatted(999_999));
            database.run("VACUUM ANALYZE activity");
            database.run("VACUUM activity");
            Meetings meetings = store.bean(Meetings.class);
            List<UUID> team = new ArrayList<>();
            for (int p = 0; p < 300; p++) {
                team.add(TimelineReads.md5("p" + p));
            }
            SplittableRandom random = new SplittableRandom(3);
            double[] millis = new double[READS];
            long shown = 0;
            for (int i = -READS / 4; i < READS; i++) {
                Instant from = LocalDate.of(2025, 1 + random.nextInt(12), 1)
                        .atStartOfDay(ZoneOffset.UTC)
                        .toInstant();
                Viewer viewer = new Viewer(Role.REP, team.get(random.nextInt(300)));
                Meetings.Wanted wanted = new Meetings.Wanted(from, from.plus(42, ChronoUnit.DAYS), team, List.of());
                long began = System.nanoTime();
                shown += meetings.days(wanted, viewer, ZoneId.of("Europe/Oslo"), 4)
                        .meetings()
                        .size();
                if (i >= 0) {
                    millis[i] = (System.nanoTime() - began) / 1e6;
                }
            }
            if (shown == 0) {
                throw new IllegalStateException("the months were empty");
            }
            Arrays.sort(millis);
            Figures.line(
                    "month of 300 people at 1 M activities",
                    "median %.1f ms, p99 %.1f ms   (bar: p99 < 100 ms)",
                    millis[READS / 2],
                    millis[READS * 99 / 100]);
        }
    }

    /**
     * From connecting to all recorded, against asking Radicale for the same bytes and throwing them away: by a service just started,
     * and by one that has read a calendar before. The floor is taken before each; the median counts.
     */
    private void firstRead() throws Exception {
        Providers providers = new Providers(stand);
        List<String> people = new ArrayList<>();
        for (int i = 0; i <= ROUNDS; i++) {
            people.add("largecalendar" + i);
            fill(providers, address(people.get(i)), i);
        }
        Database database = new Database(stand, "bench_calendar");
        try (ServiceProcess service = database.service("-Xmx1g", "1h")) {
            Service admin = service.administrator();
            people(admin, people);
            admin.post(
                    "/api/servers",
                    new NewServer("calendars", "caldav", "127.0.0.1", stand.port("CALDAV"), "/"),
                    Object.class);
            double[] ratios = new double[ROUNDS];
            for (int i = 0; i <= ROUNDS; i++) {
                double floor = dav.seconds(address(people.get(i)), EVENTS);
                double took = database.captured(admin, people.get(i), "calendars", (i + 1L) * EVENTS);
                Figures.line(
                        i == 0 ? "first read of 5,000 events, a service just started" : "first read of 5,000 events",
                        "%.2f s   bare HTTP %.2f s   %.2fx",
                        took,
                        floor,
                        took / floor);
                if (i > 0) {
                    ratios[i - 1] = took / floor;
                }
            }
            Arrays.sort(ratios);
            Figures.line("first read against its floor, median", "%.2fx   (bar 2)", ratios[ROUNDS / 2]);
            service.stop();
        }
    }

    private static String address(String person) {
        return person + "@corvane.example";
    }

    private void fill(Providers providers, String who, int number) throws Exception {
        Path marker = stand.dir().resolve("filled-" + who);
        if (Files.exists(marker)) {
            return;
        }
        providers.addUser(who);
        providers.calendar(who);
        providers.event(who, "e0.ics", event(who, number, 0));
        Path folder = dav.kept(who, "e0.ics");
        for (int i = 1; i < EVENTS; i++) {
            Path file = folder.resolve("e" + i + ".ics");
            Files.writeString(
                    file,
                    "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Corvane//bench//EN\r\n"
                            + String.join("\r\n", event(who, number, i)) + "\r\nEND:VCALENDAR\r\n");
            Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw-rw-"));
        }
        // the server's own index of a new calendar is not what is measured
        dav.seconds(who, EVENTS);
        Files.createFile(marker);
    }

    private static String[] event(String who, int number, int i) {
        Instant at = Instant.now()
                .truncatedTo(ChronoUnit.HOURS)
                .minus(60, ChronoUnit.DAYS)
                .plusSeconds(1_200L * i);
        return new String[] {
            "BEGIN:VEVENT",
            "UID:large-" + number + "-" + i,
            "DTSTAMP:20260101T000000Z",
            "DTSTART:" + at.toString().replaceAll("[-:]", ""),
            "DURATION:PT30M",
            "SUMMARY:Meeting " + i,
            "DESCRIPTION:What was agreed in meeting " + i + " and what is to be done next.",
            "ORGANIZER:mailto:" + who,
            "ATTENDEE;CN=Contact:mailto:c" + i % 40 + "@a" + i % 25 + ".example",
            "END:VEVENT"
        };
    }

    /** A thousand calendars at a server that answers at once, visited every minute: what a node does then, and what it costs. */
    private void manySources() throws Exception {
        Database database = new Database(stand, "bench_sources");
        try (InstantCalendars server = new InstantCalendars(stand);
                ServiceProcess service = database.service("-Xmx1g", "1m")) {
            Service admin = service.administrator();
            List<String> keys = new ArrayList<>();
            for (int i = 0; i < SOURCES; i++) {
                keys.add("owner" + i);
            }
            people(admin, keys);
            admin.post(
                    "/api/servers", new NewServer("instant", "caldav", "127.0.0.1", server.port(), "/"), Object.class);
            for (String key : keys) {
                admin.post(
                        "/api/connections",
                        new NewConnection(key, "instant", key + "@corvane.example", "none"),
                        Object.class);
            }
            while (database.count("SELECT count(*) FROM connection WHERE state <> 'capturing'") > 0) {
                Thread.sleep(500);
            }
            Thread.sleep(70_000);
            long asked = server.asked();
            long cpu = cpuMillis(service.pid());
            Thread.sleep(60_000);
            long reports = server.asked() - asked;
            double cores = (cpuMillis(service.pid()) - cpu) / 60_000.0;
            Figures.line(
                    "1,000 calendars without news, visited each minute",
                    "%,d requests a minute (1 a calendar: %.2f), %.2f of a core",
                    reports,
                    reports / (double) SOURCES,
                    cores);
            service.stop();
        }
    }

    private static long cpuMillis(long pid) throws IOException {
        String[] fields = Files.readString(Path.of("/proc/" + pid + "/stat"))
                .split("\\) ", 0)[1]
                .split(" ", 0);
        return (Long.parseLong(fields[11]) + Long.parseLong(fields[12])) * 10;
    }

    private static void people(Service admin, List<String> keys) throws Exception {
        admin.put("/api/company", new CompanyDomains(List.of("corvane.example"), List.of()), CompanyDomains.class);
        StringBuilder people = new StringBuilder("key,name,addresses\n");
        keys.forEach(k ->
                people.append(k).append(',').append(k).append(',').append(k).append("@corvane.example\n"));
        admin.postCsv("/api/directory/people", people.toString(), ImportOutcome.class);
        StringBuilder accounts = new StringBuilder("key,name,domains\n");
        for (int a = 0; a < 25; a++) {
            accounts.append('a')
                    .append(a)
                    .append(",Account ")
                    .append(a)
                    .append(",a")
                    .append(a)
                    .append(".example\n");
        }
        admin.postCsv("/api/directory/accounts", accounts.toString(), ImportOutcome.class);
    }
}
