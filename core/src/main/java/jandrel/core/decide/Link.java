package jandrel.core.decide;

import jandrel.core.directory.RecordKind;
import java.util.UUID;

/** Ties an item to a record, by the evidence given. */
public record Link(RecordKind kind, UUID record, Evidence evidence) implements Comparable<Link> {

    /** Strongest first. */
    public enum Evidence {
        /** The very address stands on the item. */
        ADDRESS,
        /** A contact that is linked belongs to it. */
        CONTACT,
        /** It is the only open one of an account that is linked. */
        ONLY_OPEN,
        /** An address on the item is under its domain. */
        DOMAIN
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
