package jandrel.core.directory;

import java.util.Locale;

/** What an activity can be linked to. */
public enum RecordKind {
    CONTACT,
    /** Somebody who may become a contact. */
    LEAD,
    ACCOUNT,
    OPPORTUNITY;

    /** The word used in the API. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** Several of them. */
    public String plural() {
        return this == OPPORTUNITY ? "opportunities" : word() + "s";
    }
}
