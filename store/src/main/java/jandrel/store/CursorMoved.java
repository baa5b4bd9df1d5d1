package jandrel.store;

/** Another worker has moved the source's cursor: the batch was not recorded, and need not be. */
public final class CursorMoved extends RuntimeException {
    private static final long serialVersionUID = 1L;

    CursorMoved(int source) {
        super("source " + source + " was read on by another worker");
    }
}
