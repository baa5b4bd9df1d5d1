package jandrel.store.kernel;

import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Supplier;

/** Makes ready in other threads what a batch writes later, while the database takes in what is ready. */
public final class Async {
    private static final ExecutorService THREADS =
            Executors.newFixedThreadPool(Runtime.getRuntime().availableProcessors(), work -> {
                Thread thread = new Thread(work, "beside");
                thread.setDaemon(true);
                return thread;
            });

    private Async() {}

    /** @return what waits for the result; what failed in making it is thrown there, in a CompletionException */
    public static <T> Supplier<T> made(Supplier<T> work) {
        return CompletableFuture.supplyAsync(work, THREADS)::join;
    }
}
