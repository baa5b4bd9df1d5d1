package jandrel.bench;

import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** From the first fetch to all logged, in turn with a bare pipeline over the same messages and rows; and what a pass without news costs. */
final class Backfill {
    /** As ours. */
    private static final int BATCH = 500;

    private static final String MEDIAN = "backfill against a bare pipeline, median (bar 1.6, goal 1.25)";
    static final int WARM_UP = 80_000;
    static final String WARM = "warm" + WARM_UP;
    private final Stand stand;
    private final Providers providers;
    private final int messages;
    private final int rounds;
    private final String heap;
    private final SyntheticMail letters = new SyntheticMail();

    /** @param heap as {@code bin/serve} gives it, or the little that must do for the largest mailbox */
    Backfill(Stand stand, int messages, int rounds, String heap) {
        this.rounds = rounds;
        this.heap = heap;
        this.stand = stand;
        this.providers = new Providers(stand);
        this.messages = messages;
    }

    void fillAll() throws IOException {
        fill(WARM, WARM_UP);
        for (int round = 0; round < rounds; round++) {
            fill(mailbox(round), messages);
        }
    }

    /** Whom and what there is to be captured for. */
    void prepare(Service admin) throws Exception {
        directory(admin);
        admin.post("/api/servers", new NewServer("mail", "imap", "127.0.0.1", stand.port("IMAPS"), null), Object.class);
    }

    void run() throws Exception {
        fillAll();
        Database database = new Database(stand, "bench_backfill");
        try (ServiceProcess service = database.service(heap, "2s")) {
            Service admin = service.administrator();
            prepare(admin);
            double warming = database.captured(admin, WARM, "mail", WARM_UP);
            Figures.line(
                    "a service just started, first " + WARM_UP + " messages",
                    "%,.2f s   %,.0f messages/s",
                    warming,
                    WARM_UP / warming);
            CopyFloor.alike(database);
            double[] ratios = new double[rounds];
            try (BarePipeline bare = new BarePipeline(stand)) {
                // as much is compiled and as many rows are there as with ours
                try (CopyFloor rows = new CopyFloor(database, BATCH)) {
                    bare.run(WARM + "@corvane.example", WARM_UP, BATCH, rows);
                }
                database.run("VACUUM ANALYZE");
                for (int round = 0; round < rounds; round++) {
                    double ours = ours(database, service, admin, round);
                    double floor = bare(database, bare, round);
                    ratios[round] = ours / floor;
                    Figures.line("backfill against it, mailbox " + (round + 1), "%.2fx", ratios[round]);
                }
            }
            passesWithoutNews(database);
            long resident = resident(service.pid());
            service.stop();
            // other load on the machine makes single pairs stray
            Arrays.sort(ratios);
            Figures.line(MEDIAN, "%.2fx   (resident memory %,d MB)", ratios[rounds / 2], resident);
        }
    }

    private double ours(Database database, ServiceProcess service, Service admin, int round) throws Exception {
        quiet(database);
        Cpu before = Cpu.now(stand, service.pid());
        double took = database.captured(admin, mailbox(round), "mail", (round + 1L) * messages + WARM_UP);
        line("backfill, " + heap, took, Cpu.now(stand, service.pid()).since(before, messages));
        return took;
    }

    private double bare(Database database, BarePipeline pipeline, int round) throws Exception {
        try (CopyFloor rows = new CopyFloor(database, BATCH)) {
            quiet(database);
            long self = ProcessHandle.current().pid();
            Cpu before = Cpu.now(stand, self);
            double took = pipeline.run(mailbox(round) + "@corvane.example", messages, BATCH, rows);
            line("floor: a bare pipeline", took, Cpu.now(stand, self).since(before, messages));
            return took;
        }
    }

    /** What was captured before is still being indexed, which would be in the way of the floor as well as of ours. */
    private static void quiet(Database database) throws Exception {
        while (database.count("SELECT count(*) FROM (SELECT FROM body WHERE language IS NULL LIMIT 1) b") > 0) {
            Thread.sleep(500);
        }
    }

    private void line(String what, double took, String cpu) {
        Figures.line(
                what + String.format(Locale.ROOT, ", %,d messages", messages),
                "%,.2f s   %,.0f messages/s   a message: %s",
                took,
                messages / took,
                cpu);
    }

    String mailbox(int round) {
        return "full" + messages + (round == 0 ? "" : "-" + round);
    }

    private void fill(String who, int count) throws IOException {
        if (Files.exists(
                stand.dir().resolve("mail").resolve(who + "@corvane.example").resolve("bench-filled"))) {
            return;
        }
        String address = who + "@corvane.example";
        providers.addUser(address);
        Instant begin = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(80, ChronoUnit.DAYS);
        for (int i = 0; i < count; i++) {
            Instant at = begin.plusSeconds(70L * 86_400 * i / count);
            providers.mail(
                    address, "", at, letters.letter(i + Math.floorMod(who.hashCode(), 1_000) * 1_000_000, at, address));
        }
        Files.createFile(stand.dir().resolve("mail").resolve(address).resolve("bench-filled"));
        // Dovecot's own index of a new mailbox is not what is measured
        try (SocketFloor warm = new SocketFloor(stand, address)) {
            warm.fetchAll(count, BATCH);
        } catch (java.security.GeneralSecurityException broken) {
            throw new IOException(broken);
        }
    }

    private void directory(Service admin) throws Exception {
        admin.put("/api/company", new CompanyDomains(List.of("corvane.example"), List.of()), CompanyDomains.class);
        StringBuilder people = new StringBuilder("key,name,addresses\n");
        for (int n = -1; n < rounds; n++) {
            String who = n < 0 ? WARM : mailbox(n);
            people.append(who).append(",").append(who).append(",").append(who).append("@corvane.example\n");
        }
        admin.postCsv("/api/directory/people", people.toString(), ImportOutcome.class);
        StringBuilder accounts = new StringBuilder("key,name,domains\n");
        StringBuilder contacts = new StringBuilder("key,name,addresses,account\n");
        for (int a = 0; a < 25; a++) {
            accounts.append("a")
                    .append(a)
                    .append(",Account ")
                    .append(a)
                    .append(",a")
                    .append(a)
                    .append(".example\n");
            for (int c = 0; c < 40; c++) {
                contacts.append("a")
                        .append(a)
                        .append("c")
                        .append(c)
                        .append(",Contact ")
                        .append(c)
                        .append(",c")
                        .append(c)
                        .append("@a")
                        .append(a)
                        .append(".example,a")
                        .append(a)
                        .append("\n");
            }
        }
        admin.postCsv("/api/directory/accounts", accounts.toString(), ImportOutcome.class);
        admin.postCsv("/api/directory/contacts", contacts.toString(), ImportOutcome.class);
    }

    private void passesWithoutNews(Database database) throws Exception {
        Thread.sleep(12_000);
        long written = written(database);
        long looked = database.count("SELECT extract(epoch FROM max(last_run)) FROM connection");
        Thread.sleep(12_000);
        long passes = (database.count("SELECT extract(epoch FROM max(last_run)) FROM connection") - looked);
        Figures.line(
                "rows written to item tables by passes without news",
                "%,d   (over %,d s, a pass each 2 s)",
                written(database) - written,
                passes);
    }

    /** But for what the index of words, which fills itself meanwhile, notes beside a text. */
    private static long written(Database database) throws SQLException {
        return database.count(
                "SELECT sum(n_tup_ins + n_tup_del + CASE WHEN relname <> 'body' THEN n_tup_upd ELSE 0 END)"
                        + " FROM pg_stat_user_tables"
                        + " WHERE relname IN ('sighting', 'activity', 'body', 'link', 'source', 'open_series')");
    }

    /** VmHWM: the most that the process ever held, in MB. */
    static long resident(long pid) throws IOException {
        for (String line : Files.readAllLines(Path.of("/proc/" + pid + "/status"))) {
            if (line.startsWith("VmHWM:")) {
                return Long.parseLong(line.replaceAll("\\D", "")) / 1024;
            }
        }
        return 0;
    }
}
