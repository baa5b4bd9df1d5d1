package jandrel.store.kernel;

/** How long reading for somebody who waits may take. */
public final class ReadTimeout {
    /** After these it is given up, in the database too: the reader may have left long ago. */
    public static final int SECONDS = 15;

    private ReadTimeout() {}
}
