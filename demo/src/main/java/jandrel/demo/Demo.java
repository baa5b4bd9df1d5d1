package jandrel.demo;

import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ContactApi.BookInfo;
import jandrel.api.DecisionApi.Count;
import jandrel.api.DecisionApi.Summary;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.api.DirectoryApi.PersonInfo;
import jandrel.api.DirectoryApi.TablePage;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.api.MeasureApi.HistoryOutcome;
import jandrel.api.MeasureApi.StageInfo;
import jandrel.api.MeasureApi.StageLists;
import jandrel.api.MeasureApi.WorkingDay;
import jandrel.api.MeasureApi.WorkingHoursInfo;
import jandrel.api.MeetingApi.CalendarPage;
import jandrel.api.MeetingApi.CalendarStand;
import jandrel.api.MeetingApi.InStepPage;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.api.MeetingApi.ResultList;
import jandrel.api.PolicyApi.FilePolicy;
import jandrel.api.PolicyApi.PoliciesFile;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.api.RehearsalApi.FileOutcome;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * {@code fill STAND_ENV} puts the story into the providers; {@code drive STAND_ENV SERVICE_URL ADMIN_PASSWORD} captures it;
 * {@code customers STAND_ENV PORT} stays up, takes mail for the customers, and answers their invitations.
 */
public final class Demo {
    private static final int BACK_DAYS = 190;
    private static final int AHEAD_DAYS = 30;
    private static final int GUESTS = 3;
    private static final long PATIENCE_MILLIS = 600_000;
    private final PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
    private final Stand stand;

    private Demo(Stand stand) {
        this.stand = stand;
    }

    public static void main(String[] args) throws Exception {
        try {
            Demo demo = new Demo(Stand.read(Path.of(args[1])));
            switch (args[0]) {
                case "fill" -> demo.fill();
                case "customers" -> new Customers(demo.stand).serve(Integer.parseInt(args[2]));
                default -> demo.drive(new Service(args[2]), args[2], args[3]);
            }
        } catch (IOException failed) {
            System.err.println("demo: " + failed.getMessage());
            System.exit(3);
        }
    }

    private void step(String what) {
        out.println(LocalTime.now(ZoneId.systemDefault())
                        .truncatedTo(ChronoUnit.SECONDS)
                        .format(java.time.format.DateTimeFormatter.ofPattern("HH:mm:ss"))
                + "  " + what);
    }

    private void fill() throws IOException, GeneralSecurityException, InterruptedException {
        boolean made = new Filling(stand).fill(LocalDate.now(ZoneId.systemDefault()));
        String what = Files.readString(stand.dir().resolve("filled")).strip();
        step((made ? "filled Dovecot and Radicale: " : "Dovecot and Radicale hold the story of ") + what);
    }

    private void drive(Service service, String url, String password) throws IOException, InterruptedException {
        for (int n = 0; !service.isUp(); n++) {
            if (n > 240) {
                throw new IOException("the service did not come up; see its log");
            }
            Thread.sleep(500);
        }
        service.signIn("admin", password);
        Filling filling = new Filling(stand);
        Cast cast = filling.cast();
        directory(service, cast, filling.prospects(filling.today()));
        policy(service);
        connect(service, cast);
        captured(service, c -> true, Instant.EPOCH);
        Instant made = Instant.now();
        Set<UUID> owners = plans(service);
        Summary summary = captured(service, c -> c.kind().equals("caldav") && owners.contains(c.person()), made);
        print(summary);
        print(books(service));
        print(url, password);
    }

    private void directory(Service service, Cast cast, Prospects prospects) throws IOException, InterruptedException {
        CompanyDomains domains = service.get("/api/company", CompanyDomains.class);
        List<String> freeMail = new ArrayList<>(domains.freeMail());
        if (!freeMail.contains(Cast.FREE_MAIL)) {
            freeMail.add(Cast.FREE_MAIL);
        }
        service.put("/api/company", new CompanyDomains(List.of(Cast.OWN), freeMail), CompanyDomains.class);
        Path folder = Files.createDirectories(stand.dir().resolve("directory"));
        for (Map.Entry<String, String> file : Tables.of(cast, prospects).entrySet()) {
            Files.writeString(folder.resolve(file.getKey() + ".csv"), file.getValue());
            ImportOutcome o = service.postCsv("/api/directory/" + file.getKey(), file.getValue(), ImportOutcome.class);
            step(String.format(
                    "%s: %d added, %d updated, %d as they were", o.kind(), o.added(), o.updated(), o.unchanged()));
        }
        service.put(
                "/api/stages",
                new StageLists(
                        Prospects.STAGES.stream()
                                .map(s -> new StageInfo(s[0], s[1]))
                                .toList(),
                        Prospects.CHANNELS),
                StageLists.class);
        service.put("/api/results", new ResultList(Prospects.RESULTS), ResultList.class);
        service.put(
                "/api/working-hours",
                new WorkingHoursInfo(
                        "Europe/Oslo",
                        Stream.of("monday", "tuesday", "wednesday", "thursday", "friday")
                                .map(day -> new WorkingDay(day, "08:00", "16:00"))
                                .toList(),
                        List.of("2026-12-25", "2027-01-01")),
                WorkingHoursInfo.class);
        String history = Tables.history(cast, prospects);
        Files.writeString(folder.resolve("opportunity-history.csv"), history);
        HistoryOutcome h = service.postCsv("/api/directory/opportunity-history", history, HistoryOutcome.class);
        step(String.format("opportunity-history: %d added, %d as they were", h.added(), h.known()));
    }

    private void policy(Service service) throws IOException, InterruptedException {
        service.post(
                "/api/policies/file?apply=true",
                new PoliciesFile(List.of(
                        new FilePolicy(
                                true,
                                DemoPolicy.of("Baltic team")
                                        .days(BACK_DAYS, AHEAD_DAYS)
                                        .teams("Baltic")
                                        .sharing("team")
                                        .bothWays()
                                        .contacts("both")
                                        .rules()),
                        new FilePolicy(
                                true,
                                DemoPolicy.of("Everyone")
                                        .days(BACK_DAYS, AHEAD_DAYS)
                                        .everyone()
                                        .bothWays()
                                        .contacts("both")
                                        .rules()))),
                FileOutcome.class);
        service.post(
                "/api/exclusions",
                new NewExclusions("kettingwerk.example", "supplier, not a customer", null, null, null),
                Object.class);
    }

    private void connect(Service service, Cast cast) throws IOException, InterruptedException {
        service.add("/api/servers", new NewServer("Corvane mail", "imap", "127.0.0.1", stand.port("IMAPS"), null));
        service.add(
                "/api/servers", new NewServer("Corvane calendars", "caldav", "127.0.0.1", stand.port("CALDAV"), "/"));
        service.add(
                "/api/servers", new NewServer("Corvane contacts", "carddav", "127.0.0.1", stand.port("CALDAV"), "/"));
        int made = 0;
        for (Cast.Person p : cast.people) {
            String role = p.role().equals("manager") ? "manager" : "rep";
            service.addSignIn(p.key(), p.name(), Providers.PASSWORD, role, p.key());
            for (String server : List.of("Corvane mail", "Corvane calendars", "Corvane contacts")) {
                made += service.add(
                                "/api/connections", new NewConnection(p.key(), server, p.address(), Providers.PASSWORD))
                        ? 1
                        : 0;
            }
        }
        service.addSignIn("auditor", "Outside auditor", Providers.PASSWORD, "auditor", null);
        step(
                made == 0
                        ? "everybody is connected already"
                        : "connected " + cast.people.size() + " people, " + made + " accounts");
    }

    /**
     * What our people make in Jandrel itself: it goes out to their calendars. A second run finds it there.
     *
     * @return whose calendars
     */
    private Set<UUID> plans(Service service) throws IOException, InterruptedException {
        LocalDate day = LocalDate.now(ZoneId.systemDefault()).plusDays(1);
        List<UUID> owners = new ArrayList<>();
        plan(service, "call", "Ask about the mooring plan", day, "10:00", "Port of Skarvik", "tobias.renn", 0)
                .ifPresent(owners::add);
        plan(
                        service,
                        "follow-up",
                        "Send the revised quotation",
                        day.plusDays(1),
                        "14:00",
                        "Port of Skarvik",
                        "tobias.renn",
                        0)
                .ifPresent(owners::add);
        plan(
                        service,
                        "meeting",
                        "Handover of the pilot boats",
                        day.plusDays(3),
                        "09:00",
                        "Nordvoe Terminal",
                        "maren.aldous",
                        GUESTS)
                .ifPresent(owners::add);
        step(
                owners.isEmpty()
                        ? "what was made here stands in their calendars"
                        : "made " + owners.size() + " calls, follow-ups and meetings here; they go out to calendars");
        return Set.copyOf(owners);
    }

    /** @return whose it is, when it was not there yet */
    private Optional<UUID> plan(
            Service service,
            String sort,
            String title,
            LocalDate wanted,
            String clock,
            String record,
            String key,
            int guests)
            throws IOException, InterruptedException {
        LocalDate day = wanted;
        while (day.getDayOfWeek().getValue() > 5) {
            day = day.plusDays(1);
        }
        UUID person = Arrays.stream(service.get("/api/people", PersonInfo[].class))
                .filter(p -> p.key().equals(key))
                .findFirst()
                .orElseThrow()
                .id();
        Instant from = LocalDate.now(ZoneId.systemDefault())
                .minusDays(30)
                .atStartOfDay(ZoneOffset.UTC)
                .toInstant();
        String query = "/api/calendar?people=" + person + "&from=" + from + "&until=" + from.plus(60, ChronoUnit.DAYS);
        if (service.get(query, CalendarPage.class).meetings().stream()
                .anyMatch(m -> m.title().equals(title))) {
            return Optional.empty();
        }
        RecordInfo about = service.get(
                        "/api/records?name=" + record.replace(" ", "%20") + "&kind=account", RecordPage.class)
                .records()
                .get(0);
        Instant begins = day.atTime(LocalTime.parse(clock))
                .atZone(ZoneId.of("Europe/Oslo"))
                .toInstant();
        service.post(
                "/api/meetings",
                new NewMeeting(
                        sort,
                        title,
                        begins,
                        begins.plus(sort.equals("meeting") ? 60 : 15, ChronoUnit.MINUTES),
                        null,
                        "Europe/Oslo",
                        List.of(about.id()),
                        addresses(service, about.key(), guests),
                        person,
                        guests == 0 ? null : "Quay office, Nordvoe",
                        null,
                        null,
                        null,
                        null,
                        15,
                        guests > 0),
                MadeMeeting.class);
        return Optional.of(person);
    }

    /** Of the first contacts of an account. */
    private static List<String> addresses(Service service, String account, int most)
            throws IOException, InterruptedException {
        return service
                .get("/api/directory/contacts?where.account==" + account + "&limit=20", TablePage.class)
                .rows()
                .stream()
                .map(r -> r.values().getOrDefault("addresses", ""))
                .filter(a -> !a.isEmpty())
                .limit(most)
                .map(a -> a.split(" ", 2)[0])
                .toList();
    }

    /**
     * Waits until each of these accounts was read to its end, and all that follows from it is done. One whose server does not answer is
     * waited for, one that needs somebody's hand is not.
     *
     * @param since what was read before does not count
     */
    private Summary captured(Service service, Predicate<ConnectionInfo> which, Instant since)
            throws IOException, InterruptedException {
        long until = System.currentTimeMillis() + PATIENCE_MILLIS;
        long shown = System.currentTimeMillis();
        while (true) {
            long unread = Arrays.stream(service.get("/api/connections", ConnectionInfo[].class))
                    .filter(which)
                    .filter(c -> isToBeRead(c, since))
                    .count();
            long toGoOut = service.get("/api/in-step", InStepPage.class).calendars().stream()
                    .mapToLong(CalendarStand::pendingSync)
                    .sum();
            long cards = Arrays.stream(books(service))
                    .filter(b -> b.waits() == null)
                    .mapToLong(BookInfo::pending)
                    .sum();
            Summary now = service.get("/api/summary", Summary.class);
            if (unread == 0
                    && toGoOut == 0
                    && cards == 0
                    && now.connecting() == 0
                    && now.reconsidering() == 0
                    && now.refetching() == 0) {
                return now;
            }
            if (System.currentTimeMillis() > until) {
                throw new IOException(
                        "capture has not ended in ten minutes; the console's page Connections says where it stands");
            }
            if (System.currentTimeMillis() - shown > 5_000) {
                step(String.format(
                        "capturing: %,d seen, %d of %d accounts still to be read",
                        now.decisions(), unread, now.connections()));
                shown = System.currentTimeMillis();
            }
            Thread.sleep(300);
        }
    }

    private static BookInfo[] books(Service service) throws IOException, InterruptedException {
        return service.get("/api/address-books", BookInfo[].class);
    }

    private void print(BookInfo... books) {
        out.println();
        out.printf("Address books, %d of them:%n%n", books.length);
        counted(books, BookInfo::alike, "cards and contacts the same on both sides");
        counted(books, BookInfo::open, "to settle: they fit several contacts");
        counted(books, BookInfo::privately, "private: nothing of them is kept");
        counted(books, b -> b.leftOut() + b.unreadable(), "left out for other reasons, or unreadable");
        for (BookInfo book : books) {
            if (book.waits() != null) {
                out.printf(
                        "  %s’s waits for approval: it would make %d contacts and write %d cards%n",
                        book.personName(), book.creates(), book.writes());
            }
        }
    }

    private void counted(BookInfo[] books, java.util.function.ToLongFunction<BookInfo> of, String says) {
        out.printf("  %,7d   %s%n", Arrays.stream(books).mapToLong(of).sum(), says);
    }

    private static boolean isToBeRead(ConnectionInfo connection, Instant since) {
        // what is made in Jandrel itself is at no server, and read from none
        if (connection.kind().equals("here")) {
            return false;
        }
        return switch (connection.state()) {
            case "connecting", "overdue", "unreachable", "broken" -> true;
            case "capturing" ->
                connection.lastRun() == null || connection.lastRun().isBefore(since);
            default -> false;
        };
    }

    private void print(Summary s) {
        out.println();
        out.println("What was seen, one decision for each item and source that showed it:");
        out.println();
        out.printf("  %-11s %,7d%n", "seen", s.decisions());
        out.printf(
                "  %-11s %,7d   as %,d activities, each standing once however many people have it%n",
                "logged", s.logged(), s.activities());
        out.printf(
                "  %-11s %,7d   somebody outside is on it whom the directory does not know%n", "waiting", s.waiting());
        out.printf("  %-11s %,7d%n", "left out", s.leftOut());
        Map<String, Long> why = s.counts().stream()
                .filter(c -> c.verdict().equals("left-out"))
                .collect(Collectors.groupingBy(Count::words, Collectors.summingLong(Count::count)));
        why.entrySet().stream()
                .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
                .forEach(e -> out.printf("  %-11s %,7d     %s%n", "", e.getValue(), e.getKey()));
        out.printf("  %-11s %,7d   kept in sight with the reason%n", "unreadable", s.unreadable());
        if (s.troubled() > 0) {
            out.printf("%n  %d connections need a look: see the console's page Connections%n", s.troubled());
        }
    }

    private void print(String url, String password) {
        out.println();
        out.println("Console    " + url);
        signIn("Sign in", "admin", password, "administrator");
        signIn("", "maren.aldous", Providers.PASSWORD, "manager");
        signIn("", "tobias.renn", Providers.PASSWORD, "rep");
        signIn("", "auditor", Providers.PASSWORD, "auditor");
        out.println();
        out.println("Client     bin/jandrel sign-in --url " + url + " --login admin");
    }

    private void signIn(String heading, String login, String password, String role) {
        out.printf("%-10s %-36s %s%n", heading, login + " / " + password, role);
    }
}
