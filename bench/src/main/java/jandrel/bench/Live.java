package jandrel.bench;

import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.demo.MailProgram;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import jandrel.sources.Endpoint;
import jandrel.sources.LiveMail;
import jandrel.sources.MailboxListener;
import jandrel.sources.ServerAccount;
import jandrel.sources.SourceTrouble;
import jandrel.sources.Trust;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;

/** From delivery to the timeline against the mail server's own notice; and what a thousand mailboxes that are silent cost. */
final class Live {
    private static final int MESSAGES = 500;
    private static final int IDLE = 1_000;
    private static final int PEOPLE = 25;
    private final Stand stand;
    private final Providers providers;

    Live(Stand stand) {
        this.stand = stand;
        this.providers = new Providers(stand);
    }

    void run() throws Exception {
        delivered();
        idle();
    }

    private void delivered() throws Exception {
        String who = "live" + System.nanoTime() + "@corvane.example";
        providers.addUser(who);
        Database database = new Database(stand, "bench_live");
        try (ServiceProcess service = database.service("-Xmx1g", "1d");
                MailProgram listening = MailProgram.open(stand, who)) {
            Service admin = service.administrator();
            admin.postCsv("/api/directory/people", "key,name,addresses\nlive,Live," + who + "\n", ImportOutcome.class);
            admin.postCsv("/api/directory/accounts", "key,name,domains\na,A,a.example\n", ImportOutcome.class);
            admin.post(
                    "/api/servers",
                    new NewServer("mail", "imap", "127.0.0.1", stand.port("IMAPS"), null),
                    Object.class);
            admin.post("/api/connections", new NewConnection("live", "mail", who, Providers.PASSWORD), Object.class);
            while (!admin.get("/api/connections", ConnectionInfo[].class)[0].live()) {
                Thread.sleep(200);
            }
            // as the service does: a session that may write moves what is new, which makes the server tell it of the
            // next sooner
            listening.does("EXAMINE INBOX");
            listening.listen();
            LinkedBlockingQueue<Long> notices = new LinkedBlockingQueue<>();
            Thread reads = new Thread(() -> notices(listening, notices));
            reads.setDaemon(true);
            reads.start();
            measure(who, database, notices);
        }
    }

    private static void notices(MailProgram listening, LinkedBlockingQueue<Long> notices) {
        try {
            while (true) {
                if (listening.next().endsWith(" EXISTS")) {
                    notices.add(System.nanoTime());
                }
            }
        } catch (java.io.IOException over) {
            // it is closed when all is measured
        }
    }

    private void measure(String who, Database database, LinkedBlockingQueue<Long> notices) throws Exception {
        double[] notice = new double[MESSAGES];
        double[] timeline = new double[MESSAGES];
        for (int i = -20; i < MESSAGES; i++) {
            String message = "Message-ID: <live-" + i + "@x.example>\r\nFrom: c@a.example\r\nTo: " + who
                    + "\r\nSubject: Item " + i + "\r\n\r\nText.\r\n";
            long known = database.count("SELECT count(*) FROM activity");
            notices.clear();
            providers.mail(who, "", Instant.now(), message.getBytes(StandardCharsets.UTF_8));
            long began = System.nanoTime();
            while (database.count("SELECT count(*) FROM activity") == known) {
                Thread.sleep(2);
            }
            double there = (System.nanoTime() - began) / 1e6;
            Long heard = notices.poll(20, TimeUnit.SECONDS);
            if (i >= 0 && heard != null) {
                notice[i] = (heard - began) / 1e6;
                timeline[i] = there;
            }
            // servers gather what comes in a row
            Thread.sleep(120 + Math.floorMod(i, 7) * 40L);
        }
        Arrays.sort(notice);
        Arrays.sort(timeline);
        double floor = notice[MESSAGES / 2];
        Figures.line(
                "floor: the mail server's own IDLE notice",
                "median %.0f ms, p99 %.0f ms",
                floor,
                notice[MESSAGES * 99 / 100]);
        Figures.line(
                "from delivery to the timeline, " + MESSAGES + " messages",
                "median %.0f ms, p99 %.0f ms   floor %+.0f ms (bar +300)",
                timeline[MESSAGES / 2],
                timeline[MESSAGES * 99 / 100],
                timeline[MESSAGES / 2] - floor);
    }

    private void idle() throws Exception {
        for (int p = 0; p < PEOPLE; p++) {
            providers.addUser("idle" + p + "@corvane.example");
        }
        Trust trust = Trust.with(Path.of(stand.value("CA")));
        CountDownLatch listening = new CountDownLatch(IDLE);
        AtomicBoolean measured = new AtomicBoolean();
        long before = used();
        int threads = Thread.activeCount();
        long began = System.nanoTime();
        try (LiveMail live = new LiveMail()) {
            for (int n = 0; n < IDLE; n++) {
                ServerAccount account = new ServerAccount("idle" + n % PEOPLE + "@corvane.example", Providers.PASSWORD);
                live.watch(
                        new Endpoint("127.0.0.1", stand.port("IMAPS"), ""),
                        account,
                        trust,
                        List.of("INBOX"),
                        new Counted(listening, measured));
                if (n % 20 == 19) {
                    Thread.sleep(50);
                }
            }
            boolean all = listening.await(120, TimeUnit.SECONDS);
            measured.set(true);
            double took = (System.nanoTime() - began) / 1e9;
            Figures.line(
                    "mailboxes listened to at once",
                    "%,d of %,d in %.1f s, %d threads more, %d KB of heap each",
                    IDLE - listening.getCount(),
                    IDLE,
                    took,
                    Thread.activeCount() - threads,
                    (used() - before) / IDLE / 1024);
            if (!all) {
                throw new IllegalStateException("not all were listened to");
            }
        }
    }

    /** @param over what is lost from then on is ended by us */
    private record Counted(CountDownLatch listen, AtomicBoolean over) implements MailboxListener {
        @Override
        public void listening() {
            listen.countDown();
        }

        @Override
        public void news() {
            // none is expected
        }

        @Override
        public void lost(SourceTrouble why) {
            if (!over.get()) {
                System.err.println(why.getMessage());
            }
        }
    }

    private static long used() {
        System.gc();
        return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    }
}
