package jandrel.core.policy;

import java.util.Objects;

/**
 * What is looked at, and how far.
 *
 * @param received whether mail that comes in is captured
 * @param sent whether mail that our people write is captured
 * @param backDays how many days before the day of connecting are captured
 * @param aheadDays how many days ahead meetings are captured
 * @param folders of mailboxes
 */
public record Scope(
        boolean received,
        boolean sent,
        Direction meetings,
        Direction contacts,
        int backDays,
        int aheadDays,
        Folders folders) {
    /** The furthest that a policy may look back or ahead: a hundred years. */
    public static final int MOST_DAYS = 36_525;

    /** Mail both ways and meetings inwards, for a quarter back and two months ahead. */
    public static final Scope SAFE = new Scope(true, true, Direction.IN, Direction.NONE, 90, 60, Folders.SAFE);

    public Scope {
        if (backDays < 0 || backDays > MOST_DAYS || aheadDays < 0 || aheadDays > MOST_DAYS) {
            throw new IllegalArgumentException("days back and ahead go from 0 to " + MOST_DAYS);
        }
        // what was written before policies named folders has none
        folders = Objects.requireNonNullElse(folders, Folders.SAFE);
    }

    public Scope(boolean received, boolean sent, Direction meetings, Direction contacts, int backDays, int aheadDays) {
        this(received, sent, meetings, contacts, backDays, aheadDays, Folders.SAFE);
    }

    public boolean anyMail() {
        return received || sent;
    }
}
