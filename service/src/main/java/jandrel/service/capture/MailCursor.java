package jandrel.service.capture;

/**
 * How far a folder has been read.
 *
 * @param validity UIDVALIDITY, under which alone UIDs mean anything (RFC 3501 §2.3.1.1); 0 before the first look
 * @param next the lowest UID that has not been read
 * @param messages how many the folder held when it was last compared; -1 before that
 * @param changes the server's count of changes then (RFC 7162); 0 where it keeps none
 */
public record MailCursor(long validity, long next, long messages, long changes) {
    private static final long NEVER = -1;

    public static MailCursor of(String text) {
        if (text.isEmpty()) {
            return new MailCursor(0, 1, NEVER, 0);
        }
        String[] parts = text.split("/", 0);
        return new MailCursor(
                Long.parseLong(parts[0]),
                Long.parseLong(parts[1]),
                parts.length > 2 ? Long.parseLong(parts[2]) : NEVER,
                parts.length > 3 ? Long.parseLong(parts[3]) : 0);
    }

    static String position(long validity, long uid) {
        return validity + "/" + uid;
    }

    /** Whether the folder was compared with what is known since it was numbered like this. */
    boolean wasCompared() {
        return messages >= 0;
    }

    public MailCursor read(long validity, long next) {
        return validity == this.validity
                ? new MailCursor(validity, next, messages, changes)
                : new MailCursor(validity, next, NEVER, 0);
    }

    @Override
    public String toString() {
        return messages < 0 ? validity + "/" + next : validity + "/" + next + "/" + messages + "/" + changes;
    }
}
