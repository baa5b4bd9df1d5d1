package jandrel.store.kernel;

/** Somebody else changed the same thing first. */
public final class StaleVersion extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public StaleVersion() {
        super("changed by somebody else in the meantime");
    }
}
