package jandrel.bench;

import jandrel.api.Connections.NewServer;
import jandrel.api.Directories.CompanyDomains;
import jandrel.api.Directories.ImportOutcome;
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

/** From the first fetch to all logged, against the slower of fetching alone and storing alone; and what a pass without news costs. */
final class Backfill {
    private static final int BATCH = 250;
    private static final int WARM_UP = 80_000;
    private static final String WARM = "warm" + WARM_UP;
    private final Stand stand;
    private final Providers providers;
    private final int messages;
    private final int rounds;
    private final String heap;
    private final Letters letters = new Letters();

    /** @param heap as {@code bin/serve} gives it, or the little that must do for the largest mailbox */
    Backfill(Stand stand, int messages, int rounds, String heap) {
        this.rounds = rounds;
        this.heap = heap;
        this.stand = stand;
        this.providers = new Providers(stand);
        this.messages = messages;
    }

    void run() throws Exception {
        fill(WARM, WARM_UP);
        for (int round = 0; round < rounds; round++) {
            fill(mailbox(round), messages);
        }
        Database database = new Database(stand, "bench_backfill");
        try (ServiceProcess service = database.service(heap, "2s")) {
            Service admin = service.administrator();
            directory(admin);
            admin.post(
                    "/api/servers",
                    new NewServer("mail", "imap", "127.0.0.1", stand.port("IMAPS"), null),
                    Object.class);
            double warming = database.captured(admin, WARM, "mail", WARM_UP);
            Bench.line(
                    "a service just started, first " + WARM_UP + " messages",
                    "%,.2f s   %,.0f messages/s",
                    warming,
                    WARM_UP / warming);
            double[] took = new double[rounds];
            double[] fetch = new double[rounds];
            for (int round = 0; round < rounds; round++) {
                fetch[round] = fetched(mailbox(round));
                took[round] = database.captured(admin, mailbox(round), "mail", (round + 1L) * messages + WARM_UP);
                Bench.line(
                        "backfill, " + String.format(Locale.ROOT, "%,d", messages) + " messages, " + heap,
                        "%,.2f s   %,.0f messages/s",
                        took[round],
                        messages / took[round]);
            }
            passesWithoutNews(database);
            long resident = resident(service.pid());
            service.stop();
            against(took, fetch, stored(database), resident);
        }
    }

    private String mailbox(int round) {
        return "full" + messages + (round == 0 ? "" : "-" + round);
    }

    /** The floor of fetching: seconds of a bare socket for all of the mailbox. */
    private double fetched(String who) throws Exception {
        try (SocketFloor floor = new SocketFloor(stand, who + "@corvane.example")) {
            double fetch = floor.fetchAll(messages, BATCH);
            Bench.line(
                    "floor: bare socket, "
                            + String.format(Locale.ROOT, "%,d messages, %,d MB", messages, floor.bytes() >> 20),
                    "%,.2f s   %,.0f messages/s",
                    fetch,
                    messages / fetch);
            return fetch;
        }
    }

    /** The floor of storing: seconds for a mailbox's rows. */
    private double stored(Database database) throws Exception {
        CopyFloor copy = new CopyFloor(database, BATCH);
        copy.store();
        double store = copy.store() / rounds;
        Bench.line("floor: binary COPY of the same rows", "%,.2f s   %,.0f messages/s", store, messages / store);
        return store;
    }

    /** Each round against the floors beside it; other load on the machine makes single ones stray, so the median counts. */
    private void against(double[] took, double[] fetch, double store, long resident) {
        double[] ratios = new double[rounds];
        for (int round = 0; round < rounds; round++) {
            ratios[round] = took[round] / Math.max(fetch[round], store);
            Bench.line("backfill against its floor, mailbox " + (round + 1), "%.2fx", ratios[round]);
        }
        Arrays.sort(ratios);
        Bench.line(
                "backfill against its floor, median (bar 2, goal 1.3)",
                "%.2fx   (resident memory %,d MB)",
                ratios[rounds / 2],
                resident);
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
        Bench.line(
                "rows written to item tables by passes without news",
                "%,d   (over %,d s, a pass each 2 s)",
                written(database) - written,
                passes);
    }

    private static long written(Database database) throws SQLException {
        return database.count("SELECT sum(n_tup_ins + n_tup_upd + n_tup_del) FROM pg_stat_user_tables"
                + " WHERE relname IN ('sighting', 'activity', 'body', 'link', 'source', 'open_series')");
    }

    /** VmHWM: the most that the process ever held, in MB. */
    private static long resident(long pid) throws IOException {
        for (String line : Files.readAllLines(Path.of("/proc/" + pid + "/status"))) {
            if (line.startsWith("VmHWM:")) {
                return Long.parseLong(line.replaceAll("\\D", "")) / 1024;
            }
        }
        return 0;
    }
}
