package jandrel.store;

/** What was under way no longer counts: somebody else read on, or has put the connection to rest. Nothing of it is kept. */
public final class Overtaken extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private Overtaken(String why) {
        super(why);
    }

    static Overtaken byAnother(int source) {
        return new Overtaken("source " + source + " was read on by another worker");
    }

    public static Overtaken byRest() {
        return new Overtaken("it was put to rest, or went, while it was looked at");
    }
}
