package jandrel.formats.mail;

import jandrel.core.item.Inside;
import jandrel.core.item.Inside.Carried;
import jandrel.core.item.Inside.Forwarded;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.item.UnreadableItem;
import jandrel.formats.calendar.Reply;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Date;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.james.mime4j.codec.DecodeMonitor;
import org.apache.james.mime4j.field.DateTimeFieldLenientImpl;
import org.apache.james.mime4j.stream.RawField;
import org.jspecify.annotations.Nullable;

/**
 * Reads messages. Every input gives a result in bounded time and memory: facts, or an {@link UnreadableItem} with the reason.
 * Stateless; safe for many threads.
 */
public final class MailReader {
    private static final Pattern BLANKS = Pattern.compile("[\\p{Cntrl}\\s]+");
    private static final Pattern NAMED_ZONE = Pattern.compile("\\b([ECMP][SD]T)\\s*$", Pattern.CASE_INSENSITIVE);
    private static final Map<String, String> ZONES = Map.of(
            "EST", "-0500", "EDT", "-0400", "CST", "-0600", "CDT", "-0500", "MST", "-0700", "MDT", "-0600", "PST",
            "-0800", "PDT", "-0700");
    private static final Pattern TURNS = Pattern.compile("[\\u200e\\u200f\\u202a-\\u202e\\u2066-\\u2069]");
    private static final Pattern SPACES = Pattern.compile("\\s");
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
            walk.over(raw);
        } catch (Exception | StackOverflowError broken) {
            if (walk.header().isEmpty()) {
                return unreadable(received, place, "its structure is broken before its first header ends");
            }
        }
        Headers headers = walk.header();
        List<Party> parties = new Parties(limits.parties()).of(headers);
        if (parties.isEmpty()) {
            return unreadable(received, place, "neither a sender nor a recipient can be read from it");
        }
        Instant own = date(headers, received);
        Instant at = own == null ? received : own;
        String subject = subject(headers);
        Inside inside = inside(walk, parties);
        MailItem item = new MailItem(
                identity(headers, parties, walk.plain()),
                at,
                own != null,
                parties,
                subject,
                Natures.of(headers),
                markers(headers),
                Strands.of(headers, subject),
                inside);
        return new ReadMail(item, walk.plain(), walk.html(), walk.attachments(), reply(inside, walk, parties));
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
        return new ReadMail(new UnreadableItem("unreadable:" + place, received, why), "", "", List.of(), null);
    }

    private static String subject(Headers headers) {
        return shortened(plain(headers.text("subject")), LONGEST_SUBJECT);
    }

    private Inside inside(MimeWalk walk, List<Party> parties) {
        Carried meeting = walk.meeting().isEmpty()
                ? null
                : Invitations.carried(walk.meeting()).orElse(null);
        boolean cut = walk.cut() || parties.size() >= limits.parties();
        Forwarded forwarded = Forwards.of(walk, parties).orElse(null);
        return meeting == null && forwarded == null && !cut ? Inside.NOTHING : new Inside(meeting, forwarded, cut);
    }

    private static @Nullable Reply reply(Inside inside, MimeWalk walk, List<Party> parties) {
        boolean is = inside.meeting() != null && inside.meeting().method().equals("REPLY");
        return is ? Reply.of(walk.meeting(), parties.get(0).address()).orElse(null) : null;
    }

    static String clean(String name) {
        return shortened(plain(name), LONGEST_NAME);
    }

    /** On one line, without what could turn the line around it (UAX #9). */
    private static String plain(String text) {
        if (isPlain(text)) {
            return text.strip();
        }
        return BLANKS.matcher(TURNS.matcher(text).replaceAll(""))
                .replaceAll(" ")
                .strip();
    }

    /** Printable ASCII with single blanks, as most names and subjects are. */
    private static boolean isPlain(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < ' ' || c > '~' || c == ' ' && i > 0 && text.charAt(i - 1) == ' ') {
                return false;
            }
        }
        return true;
    }

    private static String shortened(String text, int most) {
        return text.length() <= most ? text : text.substring(0, most - 1) + "…";
    }

    /** The Date header, if there is one that can be true: not before there was mail, not after the server had the message. */
    private static @Nullable Instant date(Headers headers, Instant received) {
        String value = headers.first("date");
        if (value.isEmpty() || value.length() > 200) {
            return null;
        }
        try {
            Instant usual = usual(value);
            if (usual != null && canBe(usual, received)) {
                return usual;
            }
            Date date = DateTimeFieldLenientImpl.PARSER
                    .parse(new RawField("Date", numeric(value)), DecodeMonitor.SILENT)
                    .getDate();
            if (date == null) {
                return null;
            }
            Instant at = date.toInstant();
            return canBe(at, received) ? at : null;
        } catch (RuntimeException garbage) {
            return null;
        }
    }

    private static boolean canBe(Instant at, Instant received) {
        return !at.isBefore(FIRST_MAIL) && !at.isAfter(received.plus(CLOCKS_DIFFER));
    }

    /** As nearly all programs write it (RFC 5322 §3.3); null for what must be read leniently, which costs more. */
    private static @Nullable Instant usual(String value) {
        if (value.length() < 20 || value.charAt(3) != ',') {
            return null;
        }
        // a remark with the zone's name
        int remark = value.indexOf(" (");
        try {
            return Instant.from(
                    DateTimeFormatter.RFC_1123_DATE_TIME.parse(remark < 0 ? value : value.substring(0, remark)));
        } catch (DateTimeException unusual) {
            return null;
        }
    }

    /** The zones that have a name in old mail (RFC 5322 §4.3); the library takes them all for UTC. */
    private static String numeric(String date) {
        if (date.isEmpty() || Character.isDigit(date.charAt(date.length() - 1))) {
            return date;
        }
        Matcher named = NAMED_ZONE.matcher(date);
        return named.find() ? named.replaceFirst(ZONES.get(named.group(1).toUpperCase(Locale.ROOT))) : date;
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

    static byte[] sha256(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("this Java lacks SHA-256", impossible);
        }
    }
}
