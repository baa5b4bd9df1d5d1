package jandrel.bench;

import jandrel.demo.Stand;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;

/**
 * The floor of a backfill: raw FETCH over TLS, the MIME library's walk, and binary COPY of the same rows, each by a thread of its own as
 * ours is, with as many batches under way; nothing is decided.
 */
final class BarePipeline implements AutoCloseable {
    private static final int UNDER_WAY = 3;
    private final ExecutorService fetching = Executors.newSingleThreadExecutor();
    private final ExecutorService parsing = Executors.newSingleThreadExecutor();
    private final ExecutorService storing = Executors.newSingleThreadExecutor();
    private final Stand stand;

    BarePipeline(Stand stand) {
        this.stand = stand;
    }

    private interface Step {
        void run() throws Exception;
    }

    private static void carry(Step step) {
        try {
            step.run();
        } catch (Exception failed) {
            throw new IllegalStateException(failed);
        }
    }

    /** @return seconds for all messages of a mailbox */
    double run(String account, int messages, int batch, CopyFloor rows) throws Exception {
        Semaphore room = new Semaphore(UNDER_WAY);
        BareMimeWalk walk = new BareMimeWalk();
        long began = System.nanoTime();
        try (SocketFloor mailbox = new SocketFloor(stand, account)) {
            CompletableFuture<Void> all = CompletableFuture.completedFuture(null);
            int number = 0;
            for (int from = 1; from <= messages; from += batch, number++) {
                int first = from;
                int last = Math.min(messages, from + batch - 1);
                int nth = number;
                room.acquire();
                all = CompletableFuture.supplyAsync(() -> fetched(mailbox, first, last), fetching)
                        .thenAcceptAsync(found -> carry(() -> walk.over(found)), parsing)
                        .thenRunAsync(() -> carry(() -> rows.store(nth)), storing)
                        .whenComplete((done, failed) -> room.release());
            }
            all.get();
            // of tables with more than a row for each message
            for (int rest = number; rest < rows.batches(); rest++) {
                rows.store(rest);
            }
        }
        return (System.nanoTime() - began) / 1e9;
    }

    private static List<byte[]> fetched(SocketFloor mailbox, int first, int last) {
        try {
            List<byte[]> found = mailbox.fetch(first, last);
            if (found.size() != last - first + 1) {
                throw new IllegalStateException("fetched " + found.size() + " of " + (last - first + 1));
            }
            return found;
        } catch (java.io.IOException failed) {
            throw new java.io.UncheckedIOException(failed);
        }
    }

    @Override
    public void close() {
        fetching.shutdownNow();
        parsing.shutdownNow();
        storing.shutdownNow();
    }
}
