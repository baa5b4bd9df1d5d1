package jandrel.formats.mail;

import jandrel.core.item.Inside.Carried;
import jandrel.formats.calendar.MeetingIds;
import java.util.Optional;

/** Tells which meeting a message carries (RFC 6047). A calendar file without a method is a mere attachment. */
final class CarriedInvitations {
    private static final int LONGEST_UID = 400;

    private CarriedInvitations() {}

    static Optional<Carried> carried(String object) {
        return MeetingIds.of(object)
                .filter(ids -> !ids.method().isEmpty()
                        && !ids.uid().isEmpty()
                        && ids.uid().length() <= LONGEST_UID)
                .map(ids -> new Carried(ids.method(), ids.uid()));
    }
}
