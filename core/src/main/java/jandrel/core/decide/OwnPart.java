package jandrel.core.decide;

/** What the person whose source shows an item does on it. */
public enum OwnPart {
    /** Wrote the message, or organises the meeting. */
    AUTHOR,
    /** Is named on it for all to see. */
    NAMED,
    /** Is on it as a blind copy. */
    BLIND,
    /** Is not named: it came through a list, an alias or a group, or was put there. */
    UNNAMED;

    /** Whether everybody who has the item sees that this person is part of it. */
    public boolean isOpen() {
        return this == AUTHOR || this == NAMED;
    }
}
