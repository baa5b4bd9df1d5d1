package jandrel.store.capture;

/** What was under way no longer counts: somebody else read on, put the connection to rest or changed what is captured. Nothing of it is kept. */
public final class CursorConflict extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final boolean byChange;

    private CursorConflict(String why, boolean byChange) {
        super(why);
        this.byChange = byChange;
    }

    /** Whether what is captured has changed, so that another look is due at once. */
    public boolean isByChange() {
        return byChange;
    }

    public static CursorConflict byChange() {
        return new CursorConflict("what is captured changed while it was looked at", true);
    }

    static CursorConflict byAnother(int source) {
        return new CursorConflict("source " + source + " was read on by another worker", false);
    }

    public static CursorConflict byRest() {
        return new CursorConflict("it was put to rest, or went, while it was looked at", false);
    }
}
