package jandrel.formats.mail;

import jandrel.core.item.Content;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Date;
import java.util.List;
import java.util.Locale;
import java.util.TimeZone;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.james.mime4j.codec.EncoderUtil;
import org.apache.james.mime4j.dom.Message;
import org.apache.james.mime4j.dom.address.Mailbox;
import org.apache.james.mime4j.message.BodyPartBuilder;
import org.apache.james.mime4j.message.DefaultMessageWriter;
import org.apache.james.mime4j.message.MultipartBuilder;
import org.apache.james.mime4j.stream.RawField;

/**
 * A captured message as a file that mail programs open: what is kept of it, and not the bytes that came. Without attachments, of which
 * the names alone are kept.
 */
public final class MessageFile {
    /** The part of made-up message ids behind the @; never one that mail goes to (RFC 2606). */
    private static final String DOMAIN = "captured.invalid";

    private static final DateTimeFormatter ASCTIME = DateTimeFormatter.ofPattern(
                    "EEE MMM ppd HH:mm:ss yyyy", Locale.ROOT)
            .withZone(ZoneOffset.UTC);
    private static final Pattern FROM = Pattern.compile("(?m)^(>*From )");

    private MessageFile() {}

    /** As one file (RFC 5322, RFC 2046). */
    public static byte[] message(UUID id, MailItem mail, Content content) {
        Message.Builder message = Message.Builder.of();
        message.setFrom(parties(mail, Party.Part.FROM));
        message.setReplyTo(parties(mail, Party.Part.REPLY_TO));
        message.setTo(parties(mail, Party.Part.TO));
        message.setCc(parties(mail, Party.Part.CC));
        message.setBcc(parties(mail, Party.Part.BCC));
        message.setSubject(OneLine.plain(mail.subject()));
        message.setDate(Date.from(mail.at()), TimeZone.getTimeZone(ZoneOffset.UTC));
        List<String> before = mail.strand().before();
        String own = mail.strand().own();
        field(message, "Message-ID", messageId(own.isEmpty() ? id.toString() : own));
        if (!before.isEmpty()) {
            field(message, "In-Reply-To", messageId(before.get(before.size() - 1)));
            field(
                    message,
                    "References",
                    before.stream().map(MessageFile::messageId).collect(Collectors.joining(" ")));
        }
        if (!content.attachments().isEmpty()) {
            String names = content.attachments().stream()
                    .map(a -> OneLine.plain(a.name()))
                    .collect(Collectors.joining(", "));
            field(
                    message,
                    "Comments",
                    EncoderUtil.encodeIfNecessary(
                            "Attachments that were left out: " + names, EncoderUtil.Usage.TEXT_TOKEN, 10));
        }
        try {
            if (content.html().isBlank()) {
                text(message, content.text());
            } else {
                message.setBody(MultipartBuilder.create("alternative")
                        .addBodyPart(part(content.text(), "plain"))
                        .addBodyPart(part(content.html(), "html"))
                        .build());
            }
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            new DefaultMessageWriter().writeMessage(message.build(), out);
            return out.toByteArray();
        } catch (IOException never) {
            throw new UncheckedIOException(never);
        }
    }

    /** As a part of a mailbox in one file (RFC 4155), lines that begin with From after any number of > having one more. */
    public static byte[] inMailbox(UUID id, MailItem mail, Content content) {
        String lines = new String(message(id, mail, content), StandardCharsets.ISO_8859_1).replace("\r\n", "\n");
        String from = mail.parties().stream()
                .filter(p -> p.part() == Party.Part.FROM)
                .map(p -> p.address().toString())
                .filter(a -> a.chars().allMatch(c -> c > ' ' && c < 127))
                .findFirst()
                .orElse("MAILER-DAEMON");
        String whole = "From " + from + " " + asctime(mail.at()) + "\n"
                + FROM.matcher(lines).replaceAll(">$1") + (lines.endsWith("\n") ? "\n" : "\n\n");
        return whole.getBytes(StandardCharsets.ISO_8859_1);
    }

    private static String asctime(Instant at) {
        return ASCTIME.format(at);
    }

    private static String messageId(String own) {
        return "<" + own.replaceAll("[^A-Za-z0-9._+/=-]", "-") + "@" + DOMAIN + ">";
    }

    /** @param body on one line: what writes it folds it */
    private static void field(Message.Builder message, String name, String body) {
        message.setField(new RawField(name, body));
    }

    private static List<Mailbox> parties(MailItem mail, Party.Part part) {
        List<Mailbox> all = new ArrayList<>();
        for (Party party : mail.parties()) {
            if (party.part() == part) {
                String address = party.address().toString();
                int at = address.lastIndexOf('@');
                String name = OneLine.plain(party.name());
                all.add(new Mailbox(name.isEmpty() ? null : name, address.substring(0, at), address.substring(at + 1)));
            }
        }
        return all;
    }

    private static void text(Message.Builder message, String text) throws IOException {
        message.setBody(text, StandardCharsets.UTF_8);
        message.setContentTransferEncoding("quoted-printable");
    }

    private static BodyPartBuilder part(String text, String kind) throws IOException {
        return BodyPartBuilder.create()
                .setBody(text, kind, StandardCharsets.UTF_8)
                .setContentTransferEncoding("quoted-printable");
    }
}
