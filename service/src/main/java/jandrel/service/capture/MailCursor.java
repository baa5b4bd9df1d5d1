package jandrel.service.capture;

/**
 * How far a folder has been read.
 *
 * @param validity UIDVALIDITY, under which alone UIDs mean anything (RFC 3501 §2.3.1.1); 0 before the first look
 * @param next the lowest UID that has not been read
 */
record MailCursor(long validity, long next) {
    static MailCursor of(String text) {
        int cut = text.indexOf('/');
        return cut < 0
                ? new MailCursor(0, 1)
                : new MailCursor(Long.parseLong(text.substring(0, cut)), Long.parseLong(text.substring(cut + 1)));
    }

    static String position(long validity, long uid) {
        return validity + "/" + uid;
    }

    @Override
    public String toString() {
        return validity + "/" + next;
    }
}
