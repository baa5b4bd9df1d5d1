package jandrel.formats.mail;

import jandrel.core.item.Inside;
import jandrel.core.item.Inside.Carried;
import jandrel.core.item.Inside.Forwarded;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.item.Sketch;
import jandrel.core.item.UnreadableItem;
import jandrel.formats.calendar.Reply;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Reads messages. Every input gives a result in bounded time and memory: facts, or an {@link UnreadableItem} with the reason.
 * Stateless; safe for many threads.
 */
public final class MailReader {
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
        return read(raw, received, place, false);
    }

    /** @param more whether the message goes on beyond {@code raw} */
    public ReadMail read(byte[] raw, Instant received, String place, boolean more) {
        try {
            return readAll(raw, received, place, more);
        } catch (RuntimeException | StackOverflowError broken) {
            return unreadable(received, place, "it breaks the rules of its format");
        }
    }

    private ReadMail readAll(byte[] raw, Instant received, String place, boolean more) {
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
        Instant own = MailDate.of(headers.first("date"), received).orElse(null);
        Instant at = own == null ? received : own;
        String subject = subject(headers);
        Inside inside = inside(walk, parties, more && walk.endsInText());
        MailItem item = new MailItem(
                identity(headers, parties, walk.plain()),
                at,
                own != null,
                parties,
                subject,
                Natures.of(headers),
                markers(headers),
                Strands.of(headers, subject),
                inside,
                Sketch.of(walk.plain().isBlank() ? CleanHtml.bare(walk.html()) : walk.plain()));
        return new ReadMail(item, walk.plain(), walk.html(), walk.attachments(), reply(inside, walk, parties));
    }

    /** The headers that say what sort of mail it is, and nothing of what it is about: these alone can be markers of exclusions. */
    private static List<String> markers(Headers headers) {
        List<String> markers = new ArrayList<>();
        for (String name : MARKING) {
            for (String value : headers.all(name)) {
                String shown = OneLine.name(value).toLowerCase(Locale.ROOT);
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
        return OneLine.shortened(OneLine.plain(headers.text("subject")), LONGEST_SUBJECT);
    }

    private Inside inside(MimeWalk walk, List<Party> parties, boolean textGoesOn) {
        Carried meeting = walk.meeting().isEmpty()
                ? null
                : CarriedInvitations.carried(walk.meeting()).orElse(null);
        boolean cut = textGoesOn || walk.cut() || parties.size() >= limits.parties();
        Forwarded forwarded = Forwards.of(walk, parties).orElse(null);
        return meeting == null && forwarded == null && !cut ? Inside.NOTHING : new Inside(meeting, forwarded, cut);
    }

    private static @Nullable Reply reply(Inside inside, MimeWalk walk, List<Party> parties) {
        boolean is = inside.meeting() != null && inside.meeting().method().equals("REPLY");
        return is ? Reply.of(walk.meeting(), parties.get(0).address()).orElse(null) : null;
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
            return "mail:" + OneLine.shortened(id, 400) + "|" + author + "|" + OneLine.shortened(date, 100);
        }
        String shared = author + "\n" + date + "\n" + headers.first("to") + "\n" + headers.first("cc") + "\n"
                + subject(headers) + "\n" + plain;
        return "mail-digest:" + HexFormat.of().formatHex(Strands.sha256(shared));
    }
}
