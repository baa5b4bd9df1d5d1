package jandrel.core.item;

import jandrel.core.address.EmailAddress;

/** Somebody on an item: the part they have in it, their address, and their name as the item writes it (may be empty). */
public record Party(Part part, EmailAddress address, String name) {

    /** What somebody does on an item. A room or a resource is nobody: it is never matched. */
    public enum Part {
        FROM,
        SENDER,
        REPLY_TO,
        TO,
        CC,
        BCC,
        ORGANISER,
        /** Asked to a meeting, without an answer yet. */
        ATTENDEE,
        ACCEPTED,
        TENTATIVE,
        DECLINED,
        /** Lets somebody else come instead. */
        DELEGATED,
        /** An address that several people stand behind (CUTYPE=GROUP, RFC 5545 §3.2.3). */
        GROUP,
        ROOM;

        /** Whether somebody of this part is asked to a meeting. */
        public boolean isGuest() {
            return switch (this) {
                case ATTENDEE, ACCEPTED, TENTATIVE, DECLINED, DELEGATED, GROUP -> true;
                default -> false;
            };
        }

        /** Whether somebody asked will not be there. */
        public boolean staysAway() {
            return this == DECLINED || this == DELEGATED;
        }
    }

    /** Whether a person stands behind it. */
    public boolean isPerson() {
        return part != Part.ROOM;
    }
}
