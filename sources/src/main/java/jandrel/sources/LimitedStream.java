package jandrel.sources;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.function.Supplier;

/** Stops what does not end: after so many bytes reading fails. */
public final class LimitedStream extends FilterInputStream {
    private final Supplier<? extends IOException> failure;
    private long left;

    /** @param failure what reading fails with */
    public LimitedStream(InputStream in, long most, Supplier<? extends IOException> failure) {
        super(in);
        this.failure = failure;
        left = most;
    }

    /** Whether there was more than was read. */
    public boolean isOver() {
        return left < 0;
    }

    @Override
    public int read() throws IOException {
        int b = super.read();
        count(b < 0 ? 0 : 1);
        return b;
    }

    @Override
    public int read(byte[] into, int from, int length) throws IOException {
        int n = super.read(into, from, length);
        count(Math.max(0, n));
        return n;
    }

    private void count(int n) throws IOException {
        left -= n;
        if (left < 0) {
            throw failure.get();
        }
    }
}
