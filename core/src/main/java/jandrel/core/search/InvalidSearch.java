package jandrel.core.search;

/** A query that says nothing to look for; the message says what is wrong, to whoever typed it. */
public final class InvalidSearch extends Exception {
    private static final long serialVersionUID = 1;

    InvalidSearch(String message) {
        super(message);
    }
}
