package jandrel.bench;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.api.PolicyApi.BookRule;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.core.contacts.CardIndex;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.NameKey;
import jandrel.core.contacts.SortedCard;
import jandrel.core.policy.BookRules;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;

/** Address books: whose card a card is, the first read of a large book, and writing contacts out. */
final class BookBench {
    private static final int CARDS = 5_000;
    private static final int ROUNDS = 3;
    private static final String RADICALE = "radicale";
    private static final int OUT = 1_000;
    private static final int SMALL = 1_000;
    private static final int HUGE = 50_000;
    private static final int CONTACTS = 1_000_000;
    private static final BookRule ALL_IN =
            new BookRule("all", List.of(), true, "all", 90, 0, 0, "keep", "keep", null, null, null, null);
    private final Stand stand;
    private final DavFloor dav;

    BookBench(Stand stand) {
        this.stand = stand;
        this.dav = new DavFloor(
                stand, "people/", ".vcf", "urn:ietf:params:xml:ns:carddav", "addressbook-multiget", "address-data");
    }

    void in() throws Exception {
        sorting();
        firstRead();
    }

    /** A directory in memory: the pure part alone is measured. */
    private static final class Large implements CardIndex {
        private final Map<String, List<Known>> byMail = new HashMap<>();
        private final Map<String, List<Known>> byPhone = new HashMap<>();
        private final Map<NameKey, List<Known>> byName = new HashMap<>();

        Large() {
            for (int n = 0; n < CONTACTS; n++) {
                UUID account = new UUID(1, n % 50_000);
                Known known = new Known(new UUID(0, n), NameKey.of(name(n)), Optional.of(account), false);
                byMail.put("c" + n + "@a" + n % 50_000 + ".example", List.of(known));
                byPhone.put("+47" + (10_000_000 + n), List.of(known));
                byName.put(known.name(), List.of(known));
            }
        }

        static String name(int n) {
            return "Given" + n % 997 + " Family" + n;
        }

        @Override
        public Optional<UUID> now(UUID contact) {
            return Optional.of(contact);
        }

        @Override
        public List<Known> byMail(String mail) {
            return byMail.getOrDefault(mail, List.of());
        }

        @Override
        public List<Known> byPhone(String phone) {
            return byPhone.getOrDefault(phone, List.of());
        }

        @Override
        public List<Known> byName(NameKey name) {
            return byName.getOrDefault(name, List.of());
        }

        @Override
        public List<UUID> accounts(ContactDetails card) {
            return List.of(new UUID(1, Math.floorMod(card.organisation().hashCode(), 50_000)));
        }

        @Override
        public boolean isInside(String mail) {
            return mail.endsWith("@corvane.example");
        }

        @Override
        public boolean isExcluded(String mail) {
            return mail.endsWith("@press.example");
        }
    }

    private static ContactDetails card(int n) {
        ContactDetails none = ContactDetails.NOTHING;
        TreeMap<String, String> mails = new TreeMap<>();
        TreeMap<String, String> phones = new TreeMap<>();
        if (n % 3 != 0) {
            mails.put("c" + n + "@a" + n % 50_000 + ".example", "work");
        }
        if (n % 3 != 1) {
            phones.put("+47" + (10_000_000 + n), "cell");
        }
        return new ContactDetails(
                Large.name(n),
                none.parts(),
                "Account " + n % 50_000,
                "",
                "",
                "",
                mails,
                phones,
                none.places(),
                none.urls(),
                "",
                "",
                new TreeSet<>());
    }

    private static void sorting() {
        Large directory = new Large();
        List<SortedCard.Facts> cards = new ArrayList<>();
        for (int n = 0; n < CARDS; n++) {
            cards.add(new SortedCard.Facts(card(n * 199), false, false, java.util.Set.of()));
        }
        long tied = 0;
        long began = 0;
        for (int round = 0; round < 60; round++) {
            if (round == 20) {
                tied = 0;
                began = System.nanoTime();
            }
            for (SortedCard.Facts card : cards) {
                SortedCard sorted = SortedCard.of(card, Optional.empty(), BookRules.SAFE, Set.of("family"), directory);
                tied += sorted.contact().isPresent() ? 1 : 0;
            }
        }
        double took = (System.nanoTime() - began) / 1e9;
        Figures.line("cards tied among 1 M contacts, pure, one core", "%,.0f a second   (bar 20,000)", tied / took);
    }

    private static String address(String person) {
        return person + "@corvane.example";
    }

    /** The people whose books these are, under one rule, and the server that has them. */
    private void company(Service admin, List<String> keys, String contacts, BookRule rule) throws Exception {
        admin.put("/api/company", new CompanyDomains(List.of("corvane.example"), List.of()), CompanyDomains.class);
        StringBuilder people = new StringBuilder("key,name,addresses\n");
        keys.forEach(k -> people.append(k)
                .append(',')
                .append(k)
                .append(',')
                .append(address(k))
                .append('\n'));
        admin.postCsv("/api/directory/people", people.toString(), ImportOutcome.class);
        PolicyInfo now = Arrays.stream(admin.get("/api/policies", PolicyInfo[].class))
                .findFirst()
                .orElseThrow();
        admin.put(
                "/api/policies/" + now.id(),
                new PolicyChange(
                        now.version(),
                        DemoPolicy.of("Everyone")
                                .everyone()
                                .contacts(contacts)
                                .books(rule)
                                .rules()),
                PolicyInfo.class);
        admin.post(
                "/api/servers",
                new NewServer("books", "carddav", "127.0.0.1", stand.port("CALDAV"), "/"),
                Object.class);
    }

    /**
     * From connecting to all sorted, against asking Radicale for the same bytes and throwing them away: by a service just started, and
     * by one that has read a book before. The floor is taken before each; the median counts.
     */
    private void firstRead() throws Exception {
        Providers providers = new Providers(stand);
        List<String> people = new ArrayList<>();
        for (int i = 0; i <= ROUNDS; i++) {
            people.add("largebook" + i);
            fill(providers, address(people.get(i)), i, CARDS);
        }
        Database database = new Database(stand, "bench_books");
        try (ServiceProcess service = database.service("-Xmx1g", "1h")) {
            Service admin = service.administrator();
            company(admin, people, "in", ALL_IN);
            double[] ratios = new double[ROUNDS];
            for (int i = 0; i <= ROUNDS; i++) {
                Cpu before = Cpu.now(stand, service.pid(), RADICALE);
                double floor = dav.seconds(address(people.get(i)), CARDS);
                String bare = Cpu.now(stand, service.pid(), RADICALE).since(before, CARDS);
                before = Cpu.now(stand, service.pid(), RADICALE);
                long began = System.nanoTime();
                connect(admin, people.get(i));
                until(database, "SELECT count(*) FROM card", (i + 1L) * CARDS);
                double took = (System.nanoTime() - began) / 1e9;
                Figures.line(
                        "a card takes of the processors",
                        "%s; bare %s",
                        Cpu.now(stand, service.pid(), RADICALE).since(before, CARDS),
                        bare);
                Figures.line(
                        i == 0 ? "first read of 5,000 cards, a service just started" : "first read of 5,000 cards",
                        "%.2f s   bare HTTP %.2f s   %.2fx",
                        took,
                        floor,
                        took / floor);
                if (i > 0) {
                    ratios[i - 1] = took / floor;
                }
            }
            Arrays.sort(ratios);
            Figures.line("first read against its floor, median", "%.2fx   (bar 1.5)", ratios[ROUNDS / 2]);
            service.stop();
        }
    }

    private static void connect(Service admin, String person) throws Exception {
        admin.post(
                "/api/connections",
                new NewConnection(person, "books", address(person), Providers.PASSWORD),
                Object.class);
    }

    private static void until(Database database, String count, long wanted) throws Exception {
        until(database, count, wanted, Duration.ofMinutes(5));
    }

    private static void until(Database database, String count, long wanted, Duration longest) throws Exception {
        long end = System.nanoTime() + longest.toNanos();
        while (database.count(count) < wanted) {
            if (System.nanoTime() > end) {
                throw new IllegalStateException(count + " stays at " + database.count(count));
            }
            Thread.sleep(20);
        }
    }

    /** A thousand contacts into empty books, against bare PUTs of cards as large, one after the other, as nobody may overtake another. */
    void out() throws Exception {
        Providers providers = new Providers(stand);
        Database database = new Database(stand, "bench_books_out");
        List<String> people = new ArrayList<>();
        for (int i = 0; i <= ROUNDS; i++) {
            people.add("outbook" + i + System.nanoTime() % 1_000_000);
            providers.addUser(address(people.get(i)));
            providers.book(address(people.get(i)));
        }
        try (ServiceProcess service = database.service("-Xmx1g", "1h")) {
            Service admin = service.administrator();
            company(
                    admin,
                    people,
                    "out",
                    new BookRule("all", List.of(), false, "all", 90, OUT, OUT, "keep", "keep", null, null, null, null));
            StringBuilder contacts = new StringBuilder("key,name,addresses,title\n");
            for (int n = 0; n < OUT; n++) {
                contacts.append("k" + n + ",Given Family" + n + ",c" + n + "@a" + n % 25 + ".example,Harbour master\n");
            }
            admin.postCsv("/api/directory/contacts", contacts.toString(), ImportOutcome.class);
            double[] ratios = new double[ROUNDS];
            for (int i = 0; i <= ROUNDS; i++) {
                String floorBook = "floor" + i + System.nanoTime() % 1_000_000;
                providers.addUser(address(floorBook));
                providers.book(address(floorBook));
                double floor = puts(address(floorBook));
                long began = System.nanoTime();
                connect(admin, people.get(i));
                until(database, "SELECT count(*) FROM card WHERE base IS NOT NULL", (i + 1L) * OUT);
                double took = (System.nanoTime() - began) / 1e9;
                Figures.line(
                        i == 0 ? "1,000 contacts written out, a service just started" : "1,000 contacts written out",
                        "%.2f s   bare PUTs %.2f s   %.2fx",
                        took,
                        floor,
                        took / floor);
                if (i > 0) {
                    ratios[i - 1] = took / floor;
                }
            }
            Arrays.sort(ratios);
            Figures.line("writing out against its floor, median", "%.2fx   (bar 1.5)", ratios[ROUNDS / 2]);
            service.stop();
        }
    }

    /** What a service holds at most that has read a small book, and once it has read one that is fifty times as large. */
    void memory() throws Exception {
        Providers providers = new Providers(stand);
        fill(providers, address("smallbook"), 100, SMALL);
        fill(providers, address("hugebook"), 101, HUGE);
        Database database = new Database(stand, "bench_books_memory");
        try (ServiceProcess service = database.service("-Xmx256m", "1h")) {
            Service admin = service.administrator();
            company(admin, List.of("smallbook", "hugebook"), "in", ALL_IN);
            connect(admin, "smallbook");
            until(database, "SELECT count(*) FROM card", SMALL);
            long small = Backfill.resident(service.pid());
            long began = System.nanoTime();
            connect(admin, "hugebook");
            until(database, "SELECT count(*) FROM card", SMALL + HUGE, Duration.ofMinutes(15));
            long huge = Backfill.resident(service.pid());
            Figures.line(
                    "resident at most with -Xmx256m: 1,000 cards, then 50,000",
                    "%,d MB, %,d MB   %.2fx   (the large one took %.0f s)",
                    small,
                    huge,
                    (double) huge / small,
                    (System.nanoTime() - began) / 1e9);
            service.stop();
        }
    }

    private void fill(Providers providers, String who, int number, int count) throws Exception {
        Path marker = stand.dir().resolve("filled-" + who);
        if (Files.exists(marker)) {
            return;
        }
        providers.addUser(who);
        providers.book(who);
        providers.wholeCard(who, "e0.vcf", written(number, 0));
        Path folder = dav.kept(who, "e0.vcf");
        for (int i = 1; i < count; i++) {
            Path file = folder.resolve("e" + i + ".vcf");
            Files.writeString(file, written(number, i));
            Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw-rw-"));
        }
        // the server's own index of a new book is not what is measured
        dav.seconds(who, count);
        Files.createFile(marker);
    }

    private static String written(int number, int i) {
        return String.join(
                "\r\n",
                "BEGIN:VCARD",
                "VERSION:3.0",
                "UID:large-" + number + "-" + i,
                "FN:Given Family" + i,
                "N:Family" + i + ";Given;;;",
                "ORG:Account " + i % 25,
                "TITLE:Harbour master",
                "EMAIL;TYPE=INTERNET,WORK:c" + i + "@a" + i % 25 + ".example",
                "TEL;TYPE=CELL:+47 " + (90_000_000 + i),
                "ADR;TYPE=WORK:;;Pier " + i + ";Skarvik;;0150;Norway",
                "NOTE:Met at the fair\\, asked about buoys.",
                "END:VCARD",
                "");
    }

    private double puts(String who) throws Exception {
        HttpClient http = dav.http();
        long began = System.nanoTime();
        for (int i = 0; i < OUT; i++) {
            HttpRequest request = HttpRequest.newBuilder(dav.collection(who).resolve("e" + i + ".vcf"))
                    .header("Authorization", DavFloor.authorization(who))
                    .header("Content-Type", "text/vcard; charset=utf-8")
                    .header("If-None-Match", "*")
                    .timeout(Duration.ofMinutes(1))
                    .PUT(HttpRequest.BodyPublishers.ofString(written(0, i)))
                    .build();
            int status;
            try {
                status = http.send(request, HttpResponse.BodyHandlers.discarding())
                        .statusCode();
            } catch (IOException closed) {
                int again = http.send(request, HttpResponse.BodyHandlers.discarding())
                        .statusCode();
                // what was done the first time is done
                status = again == 412 ? 201 : again;
            }
            if (status != 201) {
                throw new IllegalStateException("Radicale answered a PUT with " + status);
            }
        }
        return (System.nanoTime() - began) / 1e9;
    }
}
