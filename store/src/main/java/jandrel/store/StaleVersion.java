package jandrel.store;

/** Somebody else changed the same thing first. */
public final class StaleVersion extends RuntimeException {
    private static final long serialVersionUID = 1L;

    StaleVersion() {
        super("changed by somebody else in the meantime");
    }
}
