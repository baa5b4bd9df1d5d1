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
        ATTENDEE,
        DECLINED,
        ROOM
    }

    /** Whether a person stands behind it. */
    public boolean isPerson() {
        return part != Part.ROOM;
    }
}
