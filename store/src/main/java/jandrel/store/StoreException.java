package jandrel.store;

/** The database refused or failed. The message holds ids and states only, never a value. */
public final class StoreException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    StoreException(String message) {
        super(message);
    }
}
