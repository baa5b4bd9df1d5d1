package jandrel.store.kernel;

/** The database refused or failed. The message holds ids and states only, never a value. */
public final class StoreException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String state;

    public StoreException(String message) {
        this(message, "");
    }

    /** @param state the SQL state; empty for none */
    public StoreException(String message, String state) {
        super(message);
        this.state = state;
    }

    public String state() {
        return state;
    }
}
