package jandrel.service.capture;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.ToLongFunction;
import org.jspecify.annotations.Nullable;

/**
 * Fetches and parses batches while the ones before them are being recorded: fetching and storing overlap, and at most
 * {@value #BATCHES} batches are in memory, whatever the size of the mailbox or calendar; and no more bytes than all who read share.
 */
public final class Prefetch<K, P> implements AutoCloseable {
    private static final int BATCHES = 3;
    /** For all who read at once: an eighth of the memory, as what was fetched is there several times while it is parsed and stored. */
    private static final int ALL_KILOBYTES =
            (int) Math.max(24 * 1024, Runtime.getRuntime().maxMemory() / 8 / 1024);

    private static final Semaphore ROOM = new Semaphore(ALL_KILOBYTES, true);
    private int handedOut;
    private int held;
    private boolean closed;
    private final ExecutorService fetching = Executors.newSingleThreadExecutor(r -> daemon(r, "fetch"));
    private final ExecutorService parsing = Executors.newSingleThreadExecutor(r -> daemon(r, "parse"));
    private final Iterator<List<K>> batches;
    private final Function<List<K>, UnderWay<P>> begin;
    private final Deque<UnderWay<P>> underWay = new ArrayDeque<>();

    /** @param weight about how many bytes a batch will take */
    public <M> Prefetch(
            Iterator<List<K>> batches,
            ToLongFunction<List<K>> weight,
            Function<List<K>, M> fetch,
            BiFunction<List<K>, M, P> parse) {
        this.batches = batches;
        this.begin = keys -> {
            int kilobytes = (int) Math.min(ALL_KILOBYTES, 1 + weight.applyAsLong(keys) / 1024);
            return new UnderWay<>(
                    CompletableFuture.supplyAsync(
                                    () -> {
                                        take(kilobytes);
                                        return fetch.apply(keys);
                                    },
                                    fetching)
                            .thenApplyAsync(messages -> parse.apply(keys, messages), parsing),
                    kilobytes);
        };
    }

    private record UnderWay<T>(CompletableFuture<T> result, int kilobytes) {}

    /** Waits until there is room in memory, whoever else is reading; what was taken is given back batch by batch. */
    private void take(int kilobytes) {
        try {
            ROOM.acquire(kilobytes);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new CancellationException("stopped while waiting for room");
        }
        synchronized (this) {
            held += kilobytes;
            if (closed) {
                giveBack(held);
            }
        }
    }

    private synchronized void giveBack(int kilobytes) {
        int back = Math.min(held, kilobytes);
        held -= back;
        ROOM.release(back);
    }

    /** The next batch in order, or null after the last. What failed in fetching or parsing is thrown here. */
    @Nullable
    public P next() {
        // the one before has been recorded
        giveBack(handedOut);
        handedOut = 0;
        while (underWay.size() < BATCHES && batches.hasNext()) {
            underWay.add(begin.apply(batches.next()));
        }
        UnderWay<P> first = underWay.poll();
        if (first == null) {
            return null;
        }
        try {
            P batch = first.result().join();
            handedOut = first.kilobytes();
            return batch;
        } catch (CompletionException failed) {
            if (failed.getCause() instanceof RuntimeException cause) {
                throw cause;
            }
            throw failed;
        }
    }

    private static Thread daemon(Runnable work, String name) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        return thread;
    }

    @Override
    public void close() {
        fetching.shutdownNow();
        parsing.shutdownNow();
        synchronized (this) {
            closed = true;
            giveBack(held);
        }
    }
}
