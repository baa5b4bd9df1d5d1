package jandrel.sources;

import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.net.http.HttpClient;
import java.net.http.HttpHeaders;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodySubscriber;
import java.net.http.HttpTimeoutException;
import java.nio.ByteBuffer;
import java.util.ArrayDeque;
import java.util.List;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow.Subscription;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * Asks over HTTP so that every answer ends: the JDK's client by itself waits for the rest of a body for ever. Reading an answer fails
 * when nothing comes for a while, when all of it takes too long, and when its thread is interrupted.
 */
// what fails is heard of elsewhere: by the channel, the next turn, or not at all on purpose
@SuppressWarnings("FutureReturnValueIgnored")
final class TimedHttp {
    private final HttpClient http;
    private final Patience patience;

    /** The body must be closed. */
    record Answer(int status, HttpHeaders headers, InputStream body) {}

    TimedHttp(HttpClient http, Patience patience) {
        this.http = http;
        this.patience = patience;
    }

    Answer send(HttpRequest.Builder request) throws IOException, InterruptedException {
        HttpResponse<InputStream> response =
                http.send(request.timeout(patience.answer()).build(), head -> new Body(patience));
        return new Answer(response.statusCode(), response.headers(), response.body());
    }

    /** What came and was not read yet: a piece or two, as no more are asked for before. Read by one thread. */
    private static final class Body extends InputStream implements BodySubscriber<InputStream> {
        private static final int AHEAD = 2;
        private final Patience patience;
        private final long end;
        private final BlockingQueue<Piece> came = new LinkedBlockingQueue<>();
        private final Queue<ByteBuffer> unread = new ArrayDeque<>();
        private final CompletableFuture<Subscription> subscription = new CompletableFuture<>();
        private boolean over;

        /** @param failure why there are no more; an empty piece without one is the end */
        private record Piece(
                List<ByteBuffer> buffers, @Nullable Throwable failure) {}

        Body(Patience patience) {
            this.patience = patience;
            this.end = System.nanoTime() + patience.whole().toNanos();
        }

        @Override
        public CompletionStage<InputStream> getBody() {
            return CompletableFuture.completedStage(this);
        }

        @Override
        public void onSubscribe(Subscription to) {
            subscription.complete(to);
            to.request(AHEAD);
        }

        @Override
        public void onNext(List<ByteBuffer> buffers) {
            came.add(new Piece(buffers, null));
        }

        @Override
        public void onError(Throwable failure) {
            came.add(new Piece(List.of(), failure));
        }

        @Override
        public void onComplete() {
            came.add(new Piece(List.of(), null));
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
        }

        @Override
        public int read(byte[] into, int from, int length) throws IOException {
            Optional<ByteBuffer> buffer = buffer();
            if (buffer.isEmpty()) {
                return -1;
            }
            int n = Math.min(length, buffer.get().remaining());
            buffer.get().get(into, from, n);
            return n;
        }

        /** One with something in it; none at the end. */
        private Optional<ByteBuffer> buffer() throws IOException {
            while (!over) {
                ByteBuffer first = unread.peek();
                if (first != null && first.hasRemaining()) {
                    return Optional.of(first);
                }
                if (unread.poll() == null) {
                    take();
                }
            }
            return Optional.empty();
        }

        private void take() throws IOException {
            Piece piece;
            try {
                long left = Math.min(patience.quiet().toNanos(), end - System.nanoTime());
                piece = came.poll(left, TimeUnit.NANOSECONDS);
            } catch (InterruptedException stopped) {
                close();
                Thread.currentThread().interrupt();
                throw new InterruptedIOException("stopped while reading an answer");
            }
            if (piece == null || System.nanoTime() > end) {
                close();
                throw new HttpTimeoutException("the answer did not end in time");
            }
            if (piece.failure() != null) {
                over = true;
                throw new IOException("the answer broke off", piece.failure());
            }
            over = piece.buffers().isEmpty();
            unread.addAll(piece.buffers());
            if (!over) {
                subscription.join().request(1);
            }
        }

        @Override
        public void close() {
            over = true;
            subscription.thenAccept(Subscription::cancel);
        }
    }
}
