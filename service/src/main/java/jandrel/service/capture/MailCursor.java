package jandrel.service.capture;

/**
 * How far a folder has been read. A first read begins with the newest and works backwards, so what has been read may be a piece with
 * something before and after it.
 *
 * @param validity UIDVALIDITY, under which alone UIDs mean anything (RFC 3501 §2.3.1.1); 0 before the first look
 * @param next the lowest UID of what arrives and has not been read
 * @param messages how many the folder held when it was last compared; -1 before that
 * @param changes the server's count of changes then (RFC 7162); 0 where it keeps none
 * @param older UIDs below it were there before the first read and are still to be read; 0 when that is done
 */
public record MailCursor(long validity, long next, long messages, long changes, long older) {
    private static final long NEVER = -1;
    private static final int OLDER = 4;

    public static MailCursor of(String text) {
        if (text.isEmpty()) {
            return new MailCursor(0, 1, NEVER, 0, 0);
        }
        String[] parts = text.split("/", 0);
        return new MailCursor(
                Long.parseLong(parts[0]),
                Long.parseLong(parts[1]),
                parts.length > 2 ? Long.parseLong(parts[2]) : NEVER,
                parts.length > 3 ? Long.parseLong(parts[3]) : 0,
                parts.length > OLDER ? Long.parseLong(parts[OLDER]) : 0);
    }

    /**
     * Of a folder that has never been read under this numbering.
     *
     * @param holds whether anything is there to be read
     */
    static MailCursor first(long validity, long next, boolean holds) {
        return new MailCursor(validity, next, NEVER, 0, holds ? next : 0);
    }

    static String position(long validity, long uid) {
        return validity + "/" + uid;
    }

    /** Whether the folder was compared with what is known since it was numbered like this. */
    boolean wasCompared() {
        return messages >= 0;
    }

    boolean hasOlder() {
        return older > 0;
    }

    /** What arrived is read up to there. */
    public MailCursor read(long upTo) {
        return new MailCursor(validity, upTo, messages, changes, older);
    }

    /** @param from the lowest UID of what was there before and has been read; 0 when nothing is below it */
    MailCursor readBack(long from) {
        return new MailCursor(validity, next, messages, changes, from);
    }

    MailCursor compared(long howMany, long count) {
        return new MailCursor(validity, next, howMany, count, older);
    }

    @Override
    public String toString() {
        String read = validity + "/" + next;
        if (older > 0) {
            return read + "/" + messages + "/" + changes + "/" + older;
        }
        return messages < 0 ? read : read + "/" + messages + "/" + changes;
    }
}
