package jandrel.formats.mail;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.field.address.LenientAddressParser;
import org.apache.james.mime4j.stream.ParserCursor;
import org.apache.james.mime4j.util.ByteSequence;
import org.apache.james.mime4j.util.ContentUtil;

/** Reads who is on a message (RFC 5322 §3.6.2 and §3.6.3, groups among them). Used once, by one thread. */
final class Parties {
    /** What the library takes for a field grows with the square of its length; 500 addresses are some 25,000 characters. */
    private static final int LONGEST_HEADER = 48_000;

    private static final int MOST_QUOTED = 50;
    private static final int MOST_AROUND = 1_000;
    private final List<Party> found = new ArrayList<>();
    private final int most;

    Parties(int most) {
        this.most = most;
    }

    List<Party> of(Headers headers) {
        Optional<Party> author = rewritten(headers);
        author.ifPresent(found::add);
        collect(headers, "from", author.isPresent() ? Part.SENDER : Part.FROM);
        collect(headers, "sender", Part.SENDER);
        collect(headers, "reply-to", Part.REPLY_TO);
        collect(headers, "to", Part.TO);
        collect(headers, "cc", Part.CC);
        collect(headers, "bcc", Part.BCC);
        return found;
    }

    /**
     * The author, where a list wrote its own address in their place. Told by the header that some lists keep them in, else by a
     * From that is the list's address (RFC 2369 §3.4) beside a single other address to answer to.
     */
    private static Optional<Party> rewritten(Headers headers) {
        Optional<Party> kept = single(headers.first("x-original-from"));
        if (kept.isPresent()) {
            return kept;
        }
        String list = headers.first("list-post").toLowerCase(Locale.ROOT);
        if (list.isEmpty()) {
            return Optional.empty();
        }
        boolean byList = single(headers.first("from"))
                .filter(from -> list.contains("mailto:" + from.address()))
                .isPresent();
        return byList
                ? single(headers.first("reply-to")).filter(p -> !list.contains("mailto:" + p.address()))
                : Optional.empty();
    }

    private static Optional<Party> single(String value) {
        if (value.isEmpty() || value.length() > 1_000) {
            return Optional.empty();
        }
        List<Mailbox> mailboxes = mailboxes(value);
        return mailboxes.size() == 1 ? party(Part.FROM, mailboxes.get(0)) : Optional.empty();
    }

    private void collect(Headers headers, String name, Part part) {
        for (String value : headers.all(name)) {
            if (found.size() >= most) {
                return;
            }
            for (Mailbox mailbox : mailboxes(value)) {
                if (found.size() >= most) {
                    return;
                }
                party(part, mailbox).filter(this::isNew).ifPresent(found::add);
            }
        }
    }

    /** Where the syntax is past mending, whatever looks like an address counts. */
    static List<Mailbox> mailboxes(String value) {
        String bounded = value.length() > LONGEST_HEADER ? value.substring(0, LONGEST_HEADER) : value;
        // in bytes of our own: left to itself the library stops short by as many bytes as there are letters beyond
        // ASCII
        ByteSequence bytes = ContentUtil.encode(StandardCharsets.UTF_8, Charsets.knownOnly(bounded));
        List<Mailbox> read = LenientAddressParser.DEFAULT
                .parseAddressList(bytes, new ParserCursor(0, bytes.length()))
                .flatten();
        if (bounded.indexOf('"') >= 0 && read.size() <= MOST_QUOTED) {
            read = read.stream().map(m -> quoted(m, bounded)).toList();
        }
        boolean some =
                read.stream().anyMatch(m -> EmailAddress.parse(m.getAddress()).isPresent());
        if (some || bounded.indexOf('@') < 0) {
            return read.size() == 1 ? List.of(named(read.get(0), bounded)) : read;
        }
        return around(bounded);
    }

    /** Whatever stands around an @, up to the lengths of RFC 5321 §4.5.3.1. */
    private static List<Mailbox> around(String text) {
        List<Mailbox> found = new ArrayList<>();
        int past = 0;
        int at = text.indexOf('@');
        while (at >= 0 && found.size() < MOST_AROUND) {
            int from = at;
            while (from > past && at - from < 64 && isOfAddress(text.charAt(from - 1))) {
                from--;
            }
            int to = at + 1;
            while (to < text.length() && to - at <= 255 && isOfAddress(text.charAt(to))) {
                to++;
            }
            boolean whole = from < at && to > at + 1;
            if (whole) {
                found.add(new Mailbox(text.substring(from, at), text.substring(at + 1, to)));
                past = to;
            }
            at = text.indexOf('@', whole ? to : at + 1);
        }
        return found;
    }

    private static boolean isOfAddress(char c) {
        return c > ' ' && !Character.isWhitespace(c) && "<>,;:\"()[]@".indexOf(c) < 0;
    }

    /** A name in a comment behind the address (RFC 822 §3.4.3). */
    private static Mailbox named(Mailbox mailbox, String value) {
        int open = value.indexOf('(');
        return mailbox.getName() == null && open > 0 && value.endsWith(")")
                ? new Mailbox(
                        value.substring(open + 1, value.length() - 1), mailbox.getLocalPart(), mailbox.getDomain())
                : mailbox;
    }

    static Optional<Party> party(Part part, Mailbox mailbox) {
        String name = mailbox.getName() == null ? "" : OneLine.name(Headers.decode(mailbox.getName()));
        return EmailAddress.parse(mailbox.getAddress()).map(address -> new Party(part, address, name));
    }

    /** The library takes the quotes off, without which a local part with blanks is none (RFC 5322 §3.4.1). */
    private static Mailbox quoted(Mailbox mailbox, String value) {
        String local = mailbox.getLocalPart();
        return local != null && local.indexOf(' ') > 0 && value.contains('"' + local + "\"@")
                ? new Mailbox(mailbox.getName(), '"' + local + '"', mailbox.getDomain())
                : mailbox;
    }

    /** A sender or a reply address that only repeats the author says nothing. */
    private boolean isNew(Party party) {
        boolean repeats = party.part() == Part.SENDER || party.part() == Part.REPLY_TO;
        for (Party known : found) {
            if (known.address().equals(party.address()) && (repeats || known.part() == party.part())) {
                return false;
            }
        }
        return true;
    }
}
