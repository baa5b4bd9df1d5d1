package jandrel.core.item;

import java.time.Instant;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** One message, one occurrence of a meeting, or something that could not be read, as found at a source. Facts only, no judgement. */
public sealed interface Item permits MailItem, MeetingItem, UnreadableItem {

    /** What makes two findings the same item wherever they are found, such as a Message-ID, or a UID with its RECURRENCE-ID. */
    String identity();

    /** When it was sent, or when it begins. */
    Instant at();

    /** Everyone on it, in the order of the headers. */
    List<Party> parties();

    /** The subject or title; may be empty. */
    String subject();

    /** Orders the states that one item was found in; the greatest is the current one. Equal for items that never change. */
    default String version() {
        return "";
    }

    /** Every key of an address, a domain or a parent domain on it: what a changed rule or record is looked up by. */
    default Set<String> keys() {
        Set<String> keys = new LinkedHashSet<>();
        for (Party party : parties()) {
            keys.addAll(party.address().keys());
        }
        return keys;
    }
}
