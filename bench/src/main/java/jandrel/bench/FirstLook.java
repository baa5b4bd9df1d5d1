package jandrel.bench;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.util.Arrays;

/** From connecting a large mailbox to its newest hundred on timelines, beside a bare client that signs in and reads that hundred. */
final class FirstLook {
    private static final int MESSAGES = 20_000;
    private static final int NEWEST = 100;
    private static final int ROUNDS = 7;
    private static final int FLOORS = 9;
    private static final double BAR = 3;
    private final Stand stand;

    FirstLook(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        Backfill mailboxes = new Backfill(stand, MESSAGES, ROUNDS, "-Xmx1g");
        mailboxes.fillAll();
        Database database = new Database(stand, "bench_first_look");
        try (ServiceProcess service = database.service("-Xmx1g", "2s")) {
            Service admin = service.administrator();
            mailboxes.prepare(admin);
            // as much is compiled as in a service that has run for a while
            database.captured(admin, Backfill.WARM, "mail", Backfill.WARM_UP);
            long known = Backfill.WARM_UP;
            double[] ratios = new double[ROUNDS];
            for (int round = 0; round < ROUNDS; round++) {
                String who = mailboxes.mailbox(round);
                double floor = floor(who);
                double ours = ours(database, admin, who, known);
                known += MESSAGES;
                ratios[round] = ours / floor;
                Figures.line(
                        "newest " + NEWEST + " of " + MESSAGES + " on timelines, mailbox " + (round + 1),
                        "%.0f ms   a bare client reads them in %.0f ms: %.2fx",
                        ours * 1e3,
                        floor * 1e3,
                        ratios[round]);
            }
            service.stop();
            Arrays.sort(ratios);
            Figures.line("newest first, median (bar " + BAR + ")", "%.2fx", ratios[ROUNDS / 2]);
        }
    }

    /** Signing in, opening the folder, and reading; the median of some. */
    private double floor(String who) throws Exception {
        double[] took = new double[FLOORS];
        for (int i = 0; i < FLOORS; i++) {
            long began = System.nanoTime();
            try (SocketFloor bare = new SocketFloor(stand, who + "@corvane.example")) {
                bare.fetch(MESSAGES - NEWEST + 1, MESSAGES);
            }
            took[i] = (System.nanoTime() - began) / 1e9;
        }
        Arrays.sort(took);
        return took[FLOORS / 2];
    }

    private static double ours(Database database, Service admin, String who, long known) throws Exception {
        long began = System.nanoTime();
        admin.post(
                "/api/connections",
                new NewConnection(who, "mail", who + "@corvane.example", Providers.PASSWORD),
                Object.class);
        // of this mailbox alone: counting all that is known takes longer with every round
        String recorded =
                "SELECT count(*) FROM connection c JOIN source o ON o.connection = c.id JOIN sighting s ON s.source = o.id"
                        + " WHERE c.account = '" + who + "@corvane.example'";
        while (database.count(recorded) < NEWEST) {
            Thread.sleep(4);
        }
        double took = (System.nanoTime() - began) / 1e9;
        database.whole(known + MESSAGES);
        return took;
    }
}
