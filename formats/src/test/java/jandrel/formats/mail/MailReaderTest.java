package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.UnreadableItem;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class MailReaderTest {
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");
    private static final String HEAD = "From: Bram Holm <bram@skarvik.example>\r\nTo: tobias@corvane.example\r\n";
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    private ReadMail read(String message, Charset charset) {
        return reader.read(message.getBytes(charset), RECEIVED, "place");
    }

    private ReadMail read(String message) {
        return read(message, StandardCharsets.UTF_8);
    }

    private static MailItem mail(ReadMail read) {
        assertThat(read.item()).isInstanceOf(MailItem.class);
        return (MailItem) read.item();
    }

    @Test
    void anOrdinaryMessageGivesItsFacts() {
        ReadMail read = read(
                HEAD + "Cc: \"Aldous, Maren\" <MAREN@corvane.example>\r\nMessage-ID: <1@x>\r\n"
                        + "Date: Mon, 4 May 2026 11:30:00 +0200\r\nSubject: =?utf-8?B?QsO2amVu?= und\r\n mehr\r\n\r\nHello.\r\n");
        MailItem mail = mail(read);
        assertThat(mail.at()).isEqualTo("2026-05-04T09:30:00Z");
        assertThat(mail.dateFromHeader()).isTrue();
        assertThat(mail.subject()).isEqualTo("Böjen und mehr");
        assertThat(mail.parties()).extracting(Party::part).containsExactly(Part.FROM, Part.TO, Part.CC);
        assertThat(mail.parties().get(2).name()).isEqualTo("Aldous, Maren");
        assertThat(mail.nature()).isEqualTo(Nature.ORDINARY);
        assertThat(read.content().text().strip()).isEqualTo("Hello.");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "Date: yesterday noon\r\n",
                "Date: Mon, 4 May 2036 11:30:00 +0200\r\n",
                "Date: Thu, 1 Jan 1970 00:00:00 +0000\r\n"
            })
    void aDateThatCannotBeTrueGivesWayToTheServers(String date) {
        MailItem mail = mail(read(HEAD + date + "\r\nx"));
        assertThat(mail.at()).isEqualTo(RECEIVED);
        assertThat(mail.dateFromHeader()).isFalse();
    }

    @Test
    void aMessageWithoutAnIdIsTheSameInEveryCopy() {
        String copy = HEAD + "Subject: s\r\n\r\ntext";
        Item one = reader.read(copy.getBytes(StandardCharsets.UTF_8), RECEIVED, "a")
                .item();
        Item other = reader.read(
                        ("Received: by mx\r\n" + copy).getBytes(StandardCharsets.UTF_8), RECEIVED.plusSeconds(9), "b")
                .item();
        assertThat(one.identity())
                .isEqualTo(other.identity())
                .isNotEqualTo(read(HEAD + "Subject: t\r\n\r\ntext").item().identity());
    }

    @Test
    void aRepeatedIdOfAnotherAuthorIsAnotherMessage() {
        Item one = read(HEAD + "Message-ID: <1@x>\r\n\r\nx").item();
        Item forged =
                read("From: mallory@evil.example\r\nMessage-ID: <1@x>\r\n\r\nx").item();
        assertThat(one.identity()).isNotEqualTo(forged.identity());
    }

    @ParameterizedTest
    @CsvSource({
        "Auto-Submitted: auto-replied, AUTO_REPLY",
        "Auto-Submitted: auto-generated, AUTOMATIC",
        "Auto-Submitted: no, ORDINARY",
        "X-Autoreply: yes, AUTO_REPLY",
        "Precedence: bulk, BULK",
        "List-Unsubscribe: <https://x.example>, BULK",
        "List-Id: <talk.x.example>, LIST",
        "Content-Type: multipart/report; report-type=delivery-status; boundary=b, BOUNCE"
    })
    void itsNatureIsToldByItsHeaders(String header, Nature.Kind kind) {
        assertThat(mail(read(HEAD + header + "\r\n\r\nx")).nature().kind()).isEqualTo(kind);
    }

    @Test
    void aDiscussionListIsAListThoughItCanBeLeft() {
        MailItem mail = mail(
                read(HEAD + "List-Id: <t.x.example>\r\nList-Post: <mailto:t@x.example>\r\nPrecedence: list\r\n\r\nx"));
        assertThat(mail.nature().kind()).isEqualTo(Nature.Kind.LIST);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "\u0000\u0001 no header at all", "\r\n\r\nbody only", "Subject: nobody\r\n\r\nx"})
    void whatNamesNobodyIsUnreadableAndSaysWhy(String message) {
        assertThat(read(message).item()).isInstanceOfSatisfying(UnreadableItem.class, u -> {
            assertThat(u.reason()).isNotBlank().doesNotContain("nobody");
            assertThat(u.identity()).endsWith("place");
        });
    }

    @Test
    void textInAnUnknownOrWrongCharsetIsStillText() {
        assertThat(read(HEAD + "Content-Type: text/plain; charset=x-harbour-9\r\n\r\nabc")
                        .content()
                        .text())
                .isEqualTo("abc");
        assertThat(read(HEAD + "Content-Type: text/plain; charset=iso-8859-1\r\n\r\nGrüße", StandardCharsets.ISO_8859_1)
                        .content()
                        .text())
                .isEqualTo("Grüße");
        assertThat(read(HEAD + "Content-Type: text/plain; charset=us-ascii\r\n\r\nGrüße")
                        .content()
                        .text())
                .isEqualTo("Grüße");
        assertThat(read(HEAD + "\r\na\u0000b").content().text()).isEqualTo("a\uFFFDb");
    }

    @Test
    void attachmentsAreNamedAndWeighedNotKept() {
        ReadMail read = read(HEAD
                + "Content-Type: multipart/mixed; boundary=m\r\n\r\n--m\r\nContent-Type: text/plain\r\n\r\nsee it\r\n"
                + "--m\r\nContent-Type: application/pdf\r\nContent-Disposition: attachment; filename*=utf-8''B%C3%B6je.pdf\r\n"
                + "Content-Transfer-Encoding: base64\r\n\r\nAAAAAAAA\r\n--m--\r\n");
        assertThat(read.content().text().strip()).isEqualTo("see it");
        assertThat(read.content().attachments())
                .containsExactly(new Content.Attachment("Böje.pdf", "application/pdf", 6));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<script>alert(1)</script>",
                "<img src=x onerror=alert(1)>",
                "<a href='javascript:alert(1)'>x</a>",
                "<style>@import 'https://evil.example'</style>",
                "<iframe src='https://evil.example'></iframe>",
                "<p style=\"background:url(https://evil.example/p)\">x</p>",
                "<svg><script>alert(1)</script></svg>",
                "<form action='https://evil.example'><input></form>",
                "<base href='https://evil.example'>",
                "<object data='x'></object>"
            })
    void htmlComesOutHarmless(String hostile) {
        String html = read(HEAD + "Content-Type: text/html\r\n\r\n<p>fine</p>" + hostile)
                .content()
                .html();
        assertThat(html)
                .contains("fine")
                .doesNotContainIgnoringCase("script")
                .doesNotContain("onerror")
                .doesNotContain("evil.example")
                .doesNotContain("<img");
    }

    @Test
    void htmlAloneGivesTextToo() {
        Content c = read(HEAD
                        + "Content-Type: text/html\r\n\r\n<head><title>no</title></head><p>One</p><p>Two &amp; three<br>four</p>")
                .content();
        assertThat(c.text()).isEqualTo("One\nTwo & three\nfour");
    }

    @Test
    void nestingWithoutEndEndsAtTheLimit() {
        StringBuilder bomb = new StringBuilder(HEAD);
        for (int i = 0; i < 20_000; i++) {
            bomb.append("Content-Type: multipart/mixed; boundary=b")
                    .append(i)
                    .append("\r\n\r\n--b")
                    .append(i)
                    .append("\r\n");
        }
        Instant began = Instant.now();
        assertThat(read(bomb.toString()).item()).isInstanceOf(MailItem.class);
        assertThat(Duration.between(began, Instant.now())).isLessThan(Duration.ofSeconds(20));
    }

    @Test
    void aThousandPartsAndAMillionPeopleAreCutOff() {
        StringBuilder parts = new StringBuilder(HEAD + "Content-Type: multipart/mixed; boundary=m\r\n\r\n");
        parts.append("--m\r\nContent-Type: image/png; name=a.png\r\n\r\nx\r\n".repeat(3_000))
                .append("--m--");
        assertThat(read(parts.toString()).attachments()).hasSizeLessThanOrEqualTo(500);
        String crowd = "From: a@x.example\r\nTo: " + "b@x.example, ".repeat(50_000) + "c@x.example\r\n\r\n";
        assertThat(mail(read(crowd)).parties()).hasSizeLessThanOrEqualTo(500);
    }

    /** Seeded: a failure prints the seed, which replays it. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void noInputThrows(long seed) {
        Random random = new Random(seed);
        byte[] whole = (HEAD
                        + "Subject: =?utf-8?Q?a=?= =?x?B?%%?=\r\nContent-Type: multipart/alternative; boundary=\"q\"\r\n\r\n--q\r\n"
                        + "Content-Type: text/html; charset=utf-16\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n<p>=C3=\r\n--q--")
                .getBytes(StandardCharsets.ISO_8859_1);
        for (int i = 0; i < 400; i++) {
            byte[] broken = whole.clone();
            for (int n = random.nextInt(12); n >= 0; n--) {
                broken[random.nextInt(broken.length)] = (byte) random.nextInt(256);
            }
            ReadMail read = reader.read(broken, RECEIVED, "p");
            assertThat(read.item()).as("seed %d, round %d", seed, i).isNotNull();
            assertThat(read.content()).isNotNull();
        }
    }
}
