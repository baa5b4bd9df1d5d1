package jandrel.client;

/** Ends a command with one line on standard error and an exit code. */
final class Trouble extends RuntimeException {
    private static final long serialVersionUID = 1L;
    /** The answer is no. */
    static final int NO = 1;
    /** The command was used wrongly. */
    static final int USE = 2;
    /** The service cannot be reached, or does not allow it. */
    static final int REACH = 3;

    private final int code;

    Trouble(int code, String message) {
        super(message);
        this.code = code;
    }

    int code() {
        return code;
    }
}
