package jandrel.sources;

/** A server could not be used. The message says what to do and holds no secret, address or content. */
public final class SourceTrouble extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final Kind kind;

    /** What sort of trouble it is. */
    public enum Kind {
        /** The server does not take the sign-in: asking again helps only after somebody has renewed it. */
        SIGN_IN,
        /** No server there, or not one that can be trusted. */
        UNREACHABLE,
        /** We do not go there. */
        REFUSED,
        /** The server does not let this person do it. */
        FORBIDDEN,
        /** The server answers what it should not. */
        BROKEN
    }

    public SourceTrouble(Kind kind, String message, @org.jspecify.annotations.Nullable Throwable cause) {
        super(message, cause);
        this.kind = kind;
    }

    public SourceTrouble(Kind kind, String message) {
        super(message);
        this.kind = kind;
    }

    public Kind kind() {
        return kind;
    }
}
