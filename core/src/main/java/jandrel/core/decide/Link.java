package jandrel.core.decide;

import jandrel.core.directory.RecordKind;
import java.util.UUID;

/**
 * Ties an item to a record, by the evidence given.
 *
 * @param blind whether blind copies alone tie it, so that nobody but the sender may know
 */
public record Link(RecordKind kind, UUID record, Evidence evidence, boolean blind) implements Comparable<Link> {
    public Link(RecordKind kind, UUID record, Evidence evidence) {
        this(kind, record, evidence, false);
    }

    public Link asBlind() {
        return new Link(kind, record, evidence, true);
    }

    /** Strongest first. */
    public enum Evidence {
        /** Somebody tied the item to it. */
        RULING,
        /** The very address stands on the item. */
        ADDRESS,
        /** Another of its addresses, or a form of one, stands on the item. */
        OTHER_ADDRESS,
        /** Its address stands on the item as an attendee's. */
        ATTENDANCE,
        /** A contact that is linked belongs to it. */
        CONTACT,
        /** It is an open one of an account that is linked, and somebody on the item has a part in it. */
        TAKES_PART,
        /** It is the only open one of an account that is linked. */
        ONLY_OPEN,
        /** An address on the item is under its domain. */
        DOMAIN,
        /** An account that is a part of it is linked. */
        PART
    }

    @Override
    public int compareTo(Link other) {
        int byKind = kind.compareTo(other.kind);
        if (byKind != 0) {
            return byKind;
        }
        int byRecord = record.compareTo(other.record);
        return byRecord != 0 ? byRecord : evidence.compareTo(other.evidence);
    }
}
