package jandrel.service.capture;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Fetches and parses batches while the ones before them are being recorded: fetching and storing overlap, and at most
 * {@value #BATCHES} batches are in memory, whatever the size of the mailbox or calendar.
 */
final class Ahead<K, P> implements AutoCloseable {
    private static final int BATCHES = 3;
    private final ExecutorService fetching = Executors.newSingleThreadExecutor(r -> daemon(r, "fetch"));
    private final ExecutorService parsing = Executors.newSingleThreadExecutor(r -> daemon(r, "parse"));
    private final Iterator<List<K>> batches;
    private final Function<List<K>, CompletableFuture<P>> begin;
    private final Deque<CompletableFuture<P>> underWay = new ArrayDeque<>();

    <M> Ahead(Iterator<List<K>> batches, Function<List<K>, M> fetch, BiFunction<List<K>, M, P> parse) {
        this.batches = batches;
        this.begin = keys -> CompletableFuture.supplyAsync(() -> fetch.apply(keys), fetching)
                .thenApplyAsync(messages -> parse.apply(keys, messages), parsing);
    }

    /** The next batch in order, or null after the last. What failed in fetching or parsing is thrown here. */
    @Nullable
    P next() {
        while (underWay.size() < BATCHES && batches.hasNext()) {
            underWay.add(begin.apply(batches.next()));
        }
        CompletableFuture<P> first = underWay.poll();
        try {
            return first == null ? null : first.join();
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
    }
}
