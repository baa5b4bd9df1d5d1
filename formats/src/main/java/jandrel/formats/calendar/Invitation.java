package jandrel.formats.calendar;

import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.InvitationDiff;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** What one guest of a meeting is sent (RFC 5546 §3.2.2, §3.2.5): nothing but what is meant for guests. */
public final class Invitation {
    /** Kept in the owner's own calendar alone. */
    private static final Set<String> OWN = Set.of(Edits.MARK, Event.SORT, "TRANSP", "CLASS");

    private final String method;
    private final byte[] object;

    private Invitation(String method, byte[] object) {
        this.method = method;
        this.object = object;
    }

    /** {@code REQUEST} or {@code CANCEL}. */
    public String method() {
        return method;
    }

    /** The calendar object, in UTF-8. */
    public byte[] object() {
        return object.clone();
    }

    /**
     * @param recurrence names an occurrence of a series; null for a meeting that does not recur
     * @param organiser the address and name of who asks
     * @param names of guests, by address
     */
    public static Invitation of(
            InvitationDiff.Letter letter,
            String uid,
            @Nullable Instant recurrence,
            int sequence,
            Instant stamp,
            String organiser,
            String organiserName,
            Map<String, String> names) {
        boolean withdrawn = letter.sort() == InvitationDiff.Sort.WITHDRAWN;
        Details details = letter.details();
        if (withdrawn) {
            details = details.with(new TreeSet<>(Set.of(letter.guest()))).cancel();
        }
        String method = withdrawn ? "CANCEL" : "REQUEST";
        MeetingFile file = MeetingFile.fresh(method);
        try {
            file.put(
                    uid,
                    recurrence,
                    details,
                    new WriteOptions(sequence, stamp, organiser, organiserName, "", "meeting", false, true, names));
            file.without(OWN);
            return new Invitation(method, file.bytes());
        } catch (UnreadableCalendar impossible) {
            throw new IllegalStateException("a fresh calendar object cannot be unreadable", impossible);
        }
    }
}
