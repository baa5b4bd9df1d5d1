package jandrel.core.reconcile;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Which guests have yet to be told what of a meeting (RFC 5546). Pure: what was told before decides, not what happened since. */
public final class InvitationDiff {
    private static final List<Field> WORTH_TELLING =
            List.of(Field.TITLE, Field.WHEN, Field.PLACE, Field.ONLINE, Field.TEXT);

    private InvitationDiff() {}

    /**
     * What a guest was told last.
     *
     * @param withdrawn whether that they are not asked any more
     */
    public record LastLetter(Details details, boolean withdrawn) {}

    /** What a letter says. */
    public enum Sort {
        ASKED,
        CHANGED,
        WITHDRAWN
    }

    /** @param details what the guest is written; of what is withdrawn, what they knew */
    public record Letter(String guest, Sort sort, Details details) {}

    /**
     * @param meeting as it is now; null once it is deleted
     * @param last by guest
     * @param now what is over is told to nobody
     */
    public static List<Letter> due(@Nullable Details meeting, Map<String, LastLetter> last, Instant now) {
        boolean on = meeting != null && !meeting.cancelled();
        List<Letter> due = new ArrayList<>();
        if (meeting != null && on && meeting.when().ends().isAfter(now)) {
            for (String guest : meeting.guests()) {
                LastLetter before = last.get(guest);
                if (before == null || before.withdrawn()) {
                    due.add(new Letter(guest, Sort.ASKED, meeting));
                } else if (differs(before.details(), meeting)) {
                    due.add(new Letter(guest, Sort.CHANGED, meeting));
                }
            }
        }
        new TreeMap<>(last).forEach((guest, before) -> {
            boolean asked = meeting != null && on && meeting.guests().contains(guest);
            if (!asked && !before.withdrawn() && before.details().when().ends().isAfter(now)) {
                due.add(new Letter(guest, Sort.WITHDRAWN, before.details()));
            }
        });
        return due;
    }

    private static boolean differs(Details last, Details now) {
        return WORTH_TELLING.stream().anyMatch(f -> !f.words(last).equals(f.words(now)));
    }
}
