package jandrel.formats.mail;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.UnreadableItem;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Date;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.field.DateTimeFieldLenientImpl;
import org.apache.james.mime4j.field.address.LenientAddressParser;
import org.apache.james.mime4j.stream.RawField;

/**
 * Reads messages. Every input gives a result in bounded time and memory: facts, or an {@link UnreadableItem} with the reason.
 * Stateless; safe for many threads.
 */
public final class MailReader {
    private static final Pattern BLANKS = Pattern.compile("[\\p{Cntrl}\\s]+");
    private static final Pattern SPACES = Pattern.compile("\\s");
    private static final int LONGEST_ADDRESS_HEADER = 256_000;
    private static final List<String> MARKING = List.of(
            "list-id",
            "precedence",
            "auto-submitted",
            "x-mailer",
            "user-agent",
            "importance",
            "sensitivity",
            "x-priority",
            "x-spam-flag",
            "x-campaign",
            "feedback-id",
            "x-auto-response-suppress");
    private static final int LONGEST_SUBJECT = 500;
    private static final int LONGEST_NAME = 200;
    private static final Instant FIRST_MAIL = Instant.parse("1980-01-01T00:00:00Z");
    private static final Duration CLOCKS_DIFFER = Duration.ofDays(2);

    private final MailLimits limits;

    public MailReader(MailLimits limits) {
        this.limits = limits;
    }

    /**
     * @param raw the message, or its beginning where it is very long
     * @param received when the server took it in (IMAP INTERNALDATE), believed where the message's own date is not
     * @param place names where it was found; becomes the identity of what cannot be read
     */
    public ReadMail read(byte[] raw, Instant received, String place) {
        MimeWalk walk = new MimeWalk(limits);
        try {
            walk.over(new ByteArrayInputStream(raw));
        } catch (Exception | StackOverflowError broken) {
            if (walk.header().isEmpty()) {
                return unreadable(received, place, "its structure is broken before its first header ends");
            }
        }
        Headers headers = walk.header();
        List<Party> parties = parties(headers);
        if (parties.isEmpty()) {
            return unreadable(received, place, "neither a sender nor a recipient can be read from it");
        }
        Instant own = date(headers, received);
        Instant at = own == null ? received : own;
        MailItem item = new MailItem(
                identity(headers, parties, walk.plain()),
                at,
                own != null,
                parties,
                subject(headers),
                Natures.of(headers),
                markers(headers));
        return new ReadMail(item, walk.plain(), walk.html(), walk.attachments());
    }

    /** The headers that say what sort of mail it is, and nothing of what it is about: these alone can be markers of exclusions. */
    private static List<String> markers(Headers headers) {
        List<String> markers = new ArrayList<>();
        for (String name : MARKING) {
            for (String value : headers.all(name)) {
                String shown = clean(value).toLowerCase(Locale.ROOT);
                if (!shown.isEmpty() && markers.size() < MARKING.size()) {
                    markers.add(name + ": " + shown);
                }
            }
        }
        return markers;
    }

    private static ReadMail unreadable(Instant received, String place, String why) {
        return new ReadMail(new UnreadableItem("unreadable:" + place, received, why), "", "", List.of());
    }

    private static String subject(Headers headers) {
        return shortened(BLANKS.matcher(headers.text("subject")).replaceAll(" ").strip(), LONGEST_SUBJECT);
    }

    private List<Party> parties(Headers headers) {
        List<Party> parties = new ArrayList<>();
        collect(headers, "from", Part.FROM, parties);
        collect(headers, "sender", Part.SENDER, parties);
        collect(headers, "reply-to", Part.REPLY_TO, parties);
        collect(headers, "to", Part.TO, parties);
        collect(headers, "cc", Part.CC, parties);
        collect(headers, "bcc", Part.BCC, parties);
        return parties;
    }

    private void collect(Headers headers, String name, Part part, List<Party> into) {
        for (String value : headers.all(name)) {
            if (value.length() > LONGEST_ADDRESS_HEADER) {
                value = value.substring(0, LONGEST_ADDRESS_HEADER);
            }
            for (Mailbox mailbox :
                    LenientAddressParser.DEFAULT.parseAddressList(value).flatten()) {
                if (into.size() >= limits.parties()) {
                    return;
                }
                String shown = mailbox.getName() == null ? "" : Headers.decode(mailbox.getName());
                EmailAddress.parse(mailbox.getAddress())
                        .map(address -> new Party(part, address, clean(shown)))
                        .filter(party -> isNew(party, into))
                        .ifPresent(into::add);
            }
        }
    }

    /** A sender or a reply address that only repeats the author says nothing. */
    private static boolean isNew(Party party, List<Party> known) {
        boolean repeats = party.part() == Part.SENDER || party.part() == Part.REPLY_TO;
        return known.stream()
                .noneMatch(k -> k.address().equals(party.address()) && (repeats || k.part() == party.part()));
    }

    private static String clean(String name) {
        return shortened(BLANKS.matcher(name).replaceAll(" ").strip(), LONGEST_NAME);
    }

    private static String shortened(String text, int most) {
        return text.length() <= most ? text : text.substring(0, most - 1) + "…";
    }

    /** The Date header, if there is one that can be true: not before there was mail, not after the server had the message. */
    private static @org.jspecify.annotations.Nullable Instant date(Headers headers, Instant received) {
        String value = headers.first("date");
        if (value.isEmpty() || value.length() > 200) {
            return null;
        }
        try {
            Date date = DateTimeFieldLenientImpl.PARSER
                    .parse(new RawField("Date", value), DecodeMonitor.SILENT)
                    .getDate();
            if (date == null) {
                return null;
            }
            Instant at = date.toInstant();
            return at.isBefore(FIRST_MAIL) || at.isAfter(received.plus(CLOCKS_DIFFER)) ? null : at;
        } catch (RuntimeException garbage) {
            return null;
        }
    }

    /**
     * Message-ID alone would let a stranger's message take the place of another by repeating its id; with author and date it still
     * is the same in every copy. Without an id, a digest of what all copies share takes its place.
     */
    private static String identity(Headers headers, List<Party> parties, String plain) {
        String id = SPACES.matcher(headers.first("message-id")).replaceAll("");
        String author = parties.get(0).address().toString();
        String date = headers.first("date");
        if (!id.isEmpty()) {
            return "mail:" + shortened(id, 400) + "|" + author + "|" + shortened(date, 100);
        }
        String shared = author + "\n" + date + "\n" + headers.first("to") + "\n" + headers.first("cc") + "\n"
                + subject(headers) + "\n" + plain;
        return "mail-digest:" + HexFormat.of().formatHex(sha256(shared));
    }

    private static byte[] sha256(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("this Java lacks SHA-256", impossible);
        }
    }
}
