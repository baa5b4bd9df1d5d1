package jandrel.store;

/** What was under way no longer counts: somebody else read on, put the connection to rest or changed what is captured. Nothing of it is kept. */
public final class Overtaken extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final boolean byChange;

    private Overtaken(String why, boolean byChange) {
        super(why);
        this.byChange = byChange;
    }

    /** Whether what is captured has changed, so that another look is due at once. */
    public boolean isByChange() {
        return byChange;
    }

    public static Overtaken byChange() {
        return new Overtaken("what is captured changed while it was looked at", true);
    }

    static Overtaken byAnother(int source) {
        return new Overtaken("source " + source + " was read on by another worker", false);
    }

    public static Overtaken byRest() {
        return new Overtaken("it was put to rest, or went, while it was looked at", false);
    }
}
