package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A captured message, written as a file and read again, is the same message. */
class MessageFileTest {
    private static final Instant AT = Instant.parse("2026-05-04T12:00:00Z");
    private static final UUID ID = new UUID(7, 1);
    private static final MailReader READER = new MailReader(MailLimits.USUAL);

    private static List<Party> written(MailItem mail) {
        // a sender beside the author is not written
        return mail.parties().stream()
                .filter(p -> p.part() != Party.Part.SENDER)
                .toList();
    }

    @ParameterizedTest
    @MethodSource("jandrel.formats.mail.CorpusTest#messages")
    void comesBackAsItWas(Path message) throws Exception {
        ReadMail read = READER.read(Files.readAllBytes(message), AT, "here");
        if (!(read.item() instanceof MailItem mail)) {
            return;
        }
        List<Content.Attachment> many = List.of(
                new Content.Attachment(
                        "Ærlig plan for the north channel, the third of its kind.pdf", "application/pdf", 1),
                new Content.Attachment("a photograph of every single buoy that lies there now.jpg", "image/jpeg", 1));
        Content content = new Content(read.content().text(), "", many);
        byte[] file = MessageFile.message(ID, mail, content);
        ReadMail again = READER.read(file, AT, "here");
        assertThat(again.item()).isInstanceOf(MailItem.class);
        MailItem back = (MailItem) again.item();
        assertThat(back.subject()).isEqualTo(OneLine.plain(mail.subject()));
        assertThat(back.at()).isEqualTo(mail.at().truncatedTo(ChronoUnit.SECONDS));
        assertThat(written(back)).containsExactlyInAnyOrderElementsOf(written(mail));
        assertThat(lines(again.content().text())).isEqualTo(lines(content.text()));
        assertThat(back.strand().before()).hasSameSizeAs(mail.strand().before());
        assertThat(new String(file, StandardCharsets.ISO_8859_1).lines()).allMatch(l -> l.length() < 999);
    }

    private static String lines(String text) {
        return text.replace("\r\n", "\n").strip();
    }

    @Test
    void aMailboxComesApartAtItsMessagesAlone() {
        List<String> texts = List.of(
                "From the harbour\n>From there\n>>From nowhere\nfrom here",
                "",
                "From x\n\nFrom x@y.example Mon May  4 12:00:00 2026",
                "Ærlig talt");
        StringBuilder whole = new StringBuilder();
        for (String text : texts) {
            whole.append(new String(
                    MessageFile.inMailbox(ID, mail("Offer"), new Content(text, "", List.of())),
                    StandardCharsets.ISO_8859_1));
        }
        List<String> found = new ArrayList<>();
        // as programs do: a line that begins with From begins a message, one > less before all others
        for (String one : Pattern.compile("(?m)^From [^\n]*\n").split(whole, 0)) {
            if (!one.isEmpty()) {
                String plain = Pattern.compile("(?m)^>(>*From )").matcher(one).replaceAll("$1");
                found.add(
                        lines(READER.read(plain.replace("\n", "\r\n").getBytes(StandardCharsets.ISO_8859_1), AT, "here")
                                .content()
                                .text()));
            }
        }
        assertThat(found).isEqualTo(texts.stream().map(String::strip).toList());
    }

    private static MailItem mail(String subject, Party... more) {
        List<Party> parties = new ArrayList<>(
                List.of(new Party(Party.Part.FROM, EmailAddress.of("bram@skarvik.example"), "Bram Holm")));
        parties.addAll(List.of(more));
        return new MailItem("mail:1", AT, true, parties, subject, Nature.ORDINARY);
    }

    /** What strangers wrote cannot become another header, or another message. */
    @Test
    void aHostileNameOrSubjectStaysOne() throws Exception {
        MailItem mail = mail(
                "Offer\r\nBcc: spy@elsewhere.example\r\n\r\nFrom x",
                new Party(
                        Party.Part.TO,
                        EmailAddress.of("ida@corvane.example"),
                        "Ida\r\nBcc: spy@elsewhere.example\r\n\r\nHello"),
                new Party(
                        Party.Part.CC, EmailAddress.of("ole@corvane.example"), "\"Ole\", <x@y.example> (Æ) \u202eelo"));
        MailItem back = (MailItem) READER.read(
                        MessageFile.message(
                                ID,
                                mail,
                                new Content(
                                        "Hello",
                                        "<p>Hello</p>",
                                        List.of(new Content.Attachment(
                                                "plan\r\nBcc: spy@elsewhere.example.pdf", "application/pdf", 1)))),
                        AT,
                        "here")
                .item();
        assertThat(back.parties())
                .extracting(p -> p.part() + " " + p.address())
                .containsExactlyInAnyOrder(
                        "FROM bram@skarvik.example", "TO ida@corvane.example", "CC ole@corvane.example");
        assertThat(back.subject()).startsWith("Offer Bcc:");
    }
}
