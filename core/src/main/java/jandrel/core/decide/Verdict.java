package jandrel.core.decide;

/** What became of an item. */
public enum Verdict {
    /** It stands on timelines. */
    LOGGED("logged"),
    /** Nobody outside was matched; it waits for somebody to say who they are. */
    WAITING("waiting"),
    /** A rule keeps it out; nothing of it rests here. */
    LEFT_OUT("left-out"),
    /** It could not be read. */
    UNREADABLE("unreadable");

    private final String word;

    Verdict(String word) {
        this.word = word;
    }

    /** @throws IllegalArgumentException if no verdict has this word */
    public static Verdict called(String word) {
        for (Verdict verdict : values()) {
            if (verdict.word.equals(word)) {
                return verdict;
            }
        }
        throw new IllegalArgumentException("there is no such verdict");
    }

    /** Whether the facts of such an item are kept. */
    public boolean keepsFacts() {
        return this == LOGGED || this == WAITING;
    }

    /** The word used everywhere: database, API, console, client. */
    public String word() {
        return word;
    }
}
