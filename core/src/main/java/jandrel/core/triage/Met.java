package jandrel.core.triage;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A stranger on one item.
 *
 * @param domain the one that somebody registered; under it strangers are gathered
 * @param name as the item writes it; may be empty
 * @param blind whether they have a blind copy alone, so that nobody but its sender may know
 * @param answers the digest of the message that theirs answers; empty where it is not theirs, or answers none
 */
public record Met(EmailAddress address, String domain, String name, Way way, String answers, boolean blind) {
    public Met(EmailAddress address, String domain, String name, Way way, String answers) {
        this(address, domain, name, way, answers, false);
    }

    /** How one of ours had to do with them. The most telling first. */
    public enum Way {
        /** They wrote. */
        IN,
        /** One of ours wrote to them. */
        OUT,
        MEETING,
        /** They are on what others wrote. */
        BESIDE
    }

    /** All outsiders on the item whom no contact and no lead accounts for, each once. */
    public static List<Met> on(Item item, DirectorySlice slice) {
        Map<EmailAddress, Met> met = new LinkedHashMap<>(2);
        boolean ours = oursWrote(item, slice);
        for (Party party : item.parties()) {
            if (party.isPerson()
                    && !slice.isInside(party.address())
                    && slice.recorded(party.address()).isEmpty()) {
                met.merge(party.address(), met(item, party, ours), Met::better);
            }
        }
        return List.copyOf(met.values());
    }

    /** Whether it is a message that one of ours wrote. */
    public static boolean oursWrote(Item item, DirectorySlice slice) {
        return item instanceof MailItem
                && !item.parties().isEmpty()
                && slice.isInside(item.parties().get(0).address());
    }

    private static Met met(Item item, Party party, boolean ours) {
        Way way = way(item, party, ours);
        return new Met(
                party.address(),
                DomainName.registered(party.address().domain()),
                party.name(),
                way,
                way == Way.IN ? answered(item) : "",
                party.part() == Party.Part.BCC);
    }

    /** The nearest of those that it goes back to (RFC 5322 §3.6.4). */
    private static String answered(Item item) {
        List<String> before = item instanceof MailItem mail ? mail.strand().before() : List.of();
        return before.isEmpty() ? "" : before.get(before.size() - 1);
    }

    private static Way way(Item item, Party party, boolean ours) {
        if (!(item instanceof MailItem)) {
            return Way.MEETING;
        }
        if (party.part() == Party.Part.FROM) {
            return Way.IN;
        }
        return ours ? Way.OUT : Way.BESIDE;
    }

    private static Met better(Met a, Met b) {
        String name = a.name().isEmpty() ? b.name() : a.name();
        Met nearer = a.way().compareTo(b.way()) <= 0 ? a : b;
        return new Met(a.address(), a.domain(), name, nearer.way(), nearer.answers(), a.blind() && b.blind());
    }
}
