package jandrel.formats.card;

import ezvcard.VCard;
import ezvcard.property.Revision;
import jandrel.core.contacts.ContactDetails;
import jandrel.formats.mail.Phones;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoField;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * An address-book object (RFC 6352 §5.1) to be read and changed: only what differs is written, and every property that is not known here
 * stays as it was, to the byte and in its place. Not safe for several threads.
 */
public final class CardFile {
    private static final Charset OLD = Charset.forName("windows-1252");
    private final List<CardLine> lines;
    private final Charset charset;
    private final CardReader reader;
    private VCard card;

    private CardFile(List<CardLine> lines, Charset charset, CardReader reader) throws UnreadableCard {
        this.lines = new ArrayList<>(lines);
        this.charset = charset;
        this.reader = reader;
        this.card = reader.parsed(text(lines));
    }

    /** @throws UnreadableCard if it is no card, or several, or larger than a card may be */
    public static CardFile read(byte[] bytes, Phones phones) throws UnreadableCard {
        return read(bytes, phones, CardLimits.USUAL);
    }

    static CardFile read(byte[] bytes, Phones phones, CardLimits limits) throws UnreadableCard {
        if (bytes.length > limits.bytes()) {
            throw new UnreadableCard("it is larger than " + limits.bytes() / 1024 / 1024 + " MB");
        }
        Charset charset = isUtf8(CardLine.whole(bytes)) ? StandardCharsets.UTF_8 : OLD;
        List<CardLine> lines = CardLine.all(bytes, charset, limits.lines());
        long cards = lines.stream()
                .filter(l -> l.name().equals("BEGIN") && l.value(charset).equalsIgnoreCase("VCARD"))
                .count();
        if (cards != 1) {
            throw new UnreadableCard(
                    cards == 0 ? "it holds no VCARD" : "it holds several cards, or one within another");
        }
        if (lines.stream().noneMatch(l -> l.name().equals("END"))) {
            throw new UnreadableCard("it is cut off: its end is missing");
        }
        return new CardFile(lines, charset, new CardReader(phones, limits));
    }

    /** One of version 3.0, which every server takes (RFC 6352 §3). */
    public static CardFile fresh(String uid, Phones phones) throws UnreadableCard {
        String card = "BEGIN:VCARD\r\nVERSION:3.0\r\nPRODID:-//Corvane//Jandrel//EN\r\nUID:" + uid
                + "\r\nFN:\r\nN:;;;;\r\nEND:VCARD\r\n";
        return read(card.getBytes(StandardCharsets.UTF_8), phones);
    }

    private static boolean isUtf8(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return true;
        } catch (CharacterCodingException other) {
            return false;
        }
    }

    /** Without what is large and says nothing here; the version first, since it says how the rest is to be read. */
    private String text(List<CardLine> some) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(2_048);
        List<CardLine> small = some.stream().filter(l -> !l.isBulky()).toList();
        small.stream().filter(CardFile::isHead).forEach(l -> out.writeBytes(l.raw()));
        small.stream().filter(l -> !isHead(l)).forEach(l -> out.writeBytes(l.raw()));
        return new String(CardLine.whole(out.toByteArray()), charset);
    }

    private static boolean isHead(CardLine line) {
        return line.name().equals("BEGIN") || line.name().equals("VERSION");
    }

    /** @throws UnreadableCard if a value is longer than may be */
    public ContactDetails details() throws UnreadableCard {
        return reader.details(card);
    }

    /** Empty where it has none. */
    public String uid() {
        return card.getUid() == null
                ? ""
                : Objects.requireNonNullElse(card.getUid().getValue(), "").strip();
    }

    /** Whether its owner marked it as not for others (RFC 2426 §3.7.1). */
    public boolean isPrivate() {
        return card.getClassification() != null
                && List.of("PRIVATE", "CONFIDENTIAL")
                        .contains(String.valueOf(card.getClassification().getValue())
                                .strip()
                                .toUpperCase(Locale.ROOT));
    }

    /** Whether it is a list of others (RFC 6350 §6.1.4), in the standard's way or as older servers have it. */
    public boolean isGroup() {
        return lines.stream()
                .filter(l -> l.name().equals("KIND") || l.name().equals("X-ADDRESSBOOKSERVER-KIND"))
                .anyMatch(l -> l.value(charset).equalsIgnoreCase("group"));
    }

    /** Of a group: the UIDs of who is in it, as far as they are given so (RFC 6350 §6.6.5). */
    public List<String> members() {
        return lines.stream()
                .filter(l -> l.name().equals("MEMBER") || l.name().equals("X-ADDRESSBOOKSERVER-MEMBER"))
                .map(l -> l.value(charset))
                .map(v -> v.regionMatches(true, 0, "urn:uuid:", 0, 9) ? v.substring(9) : v)
                .toList();
    }

    public boolean hasPhoto() {
        return lines.stream().anyMatch(l -> l.name().equals("PHOTO"));
    }

    /** {@code 2.1}, {@code 3.0} or {@code 4.0}; kept by every write. */
    public String version() {
        return card.getVersion() == null ? "3.0" : card.getVersion().getVersion();
    }

    /** When it was changed last (RFC 6350 §6.7.4), as far as it says. */
    public Optional<Instant> changedAt() {
        try {
            return Optional.ofNullable(card.getRevision())
                    .map(Revision::getValue)
                    .map(CardFile::instant);
        } catch (DateTimeException noDay) {
            return Optional.empty();
        }
    }

    private static Instant instant(Temporal at) {
        if (at instanceof Instant instant) {
            return instant;
        }
        return at.isSupported(ChronoField.INSTANT_SECONDS)
                ? Instant.from(at)
                : LocalDate.from(at).atStartOfDay().toInstant(ZoneOffset.UTC);
    }

    /** Of our last write that it still carries; may be empty. */
    public String mark() {
        return lines.stream()
                .filter(l -> l.name().equals(CardEdits.MARK))
                .findFirst()
                .map(l -> l.value(charset))
                .orElse("");
    }

    /**
     * Writes what differs.
     *
     * @param stamp of the change (RFC 6350 §6.7.4)
     * @param mark by which the write can be known again; empty for none
     * @throws UnreadableCard if what comes of it could not be read again
     */
    public void put(ContactDetails after, Instant stamp, String mark) throws UnreadableCard {
        new CardEdits(this::said, lines, charset, version().equals("2.1")).all(details(), after, stamp, mark);
        card = reader.parsed(text(lines));
    }

    /** What a single line of this card says. */
    private ContactDetails said(CardLine line) throws UnreadableCard {
        String alone = "BEGIN:VCARD\r\nVERSION:" + version() + "\r\n" + text(List.of(line)) + "END:VCARD\r\n";
        return reader.details(reader.parsed(alone));
    }

    public byte[] bytes() {
        ByteArrayOutputStream out = new ByteArrayOutputStream(2_048);
        lines.forEach(l -> out.writeBytes(l.raw()));
        return out.toByteArray();
    }

    @Override
    public String toString() {
        return lines.stream().map(CardLine::name).collect(Collectors.joining(" "));
    }
}
