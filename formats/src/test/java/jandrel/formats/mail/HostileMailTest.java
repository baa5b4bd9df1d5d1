package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is made to cost hours or to be read otherwise than it is meant. */
class HostileMailTest {
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");
    private static final String HEAD = "From: bram@skarvik.example\r\nTo: maren@corvane.example\r\nSubject: s\r\n";

    private static ReadMail read(String message) {
        byte[] bytes = message.getBytes(StandardCharsets.UTF_8);
        // an order of magnitude over what the largest of these takes
        return Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(10), () -> new MailReader(MailLimits.USUAL).read(bytes, RECEIVED, "x"));
    }

    private static MailItem item(String message) {
        Item item = read(message).item();
        assertThat(item).isInstanceOf(MailItem.class);
        return (MailItem) item;
    }

    private static String repeated(int times, IntFunction<String> piece) {
        return IntStream.range(0, times).mapToObj(piece).collect(Collectors.joining());
    }

    @Test
    void thousandsOfReferencesAreBounded() {
        String ids = repeated(8_000, i -> "<id" + i + "@far.example>\r\n ");
        String other = repeated(8_000, i -> "<other" + i + "@far.example>\r\n ");
        MailItem mail = item(HEAD + "References: " + ids + "\r\nIn-Reply-To: " + other + "\r\n\r\nx");
        assertThat(mail.strand().before()).hasSizeLessThanOrEqualTo(12);
    }

    /** Elements that are never closed are opened anew in each paragraph that follows. */
    @Test
    void htmlDoesNotGrowByBeingCleaned() {
        String html = repeated(9_000, i -> "<body><p>We meet<b>now</p>");
        Content content = Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(10),
                () -> read(HEAD + "Content-Type: text/html\r\n\r\n" + html).content());
        assertThat(content.html().length()).isLessThan(3 * html.length());
        assertThat(content.html()).contains("We meet");
        assertThat(content.text()).contains("We meet").hasSizeLessThan(html.length());
    }

    @Test
    void charsetsThatNobodyKnowsCostNothing() {
        String words = repeated(6_000, i -> "=?x-none-" + i + "?Q?word?=\r\n ");
        assertThat(item("Subject: " + words + "\r\nFrom: bram@skarvik.example\r\nTo: maren@corvane.example\r\n\r\nx")
                        .subject())
                .startsWith("wordword");
        String parts = repeated(
                480,
                i -> "--b\r\nContent-Type: application/pdf; name=\"=?x-none-" + i
                        + "?Q?n?=\"\r\nContent-Disposition: attachment; filename*=x-none-" + i + "''n"
                        + "\r\n\r\nx\r\n");
        read(HEAD + "Content-Type: multipart/mixed; boundary=b\r\n\r\n" + parts + "--b--\r\n");
        String texts = repeated(480, i -> "--b\r\nContent-Type: text/plain; charset=x-none-" + i + "\r\n\r\nx\r\n");
        read(HEAD + "Content-Type: multipart/mixed; boundary=b\r\n\r\n" + texts + "--b--\r\n");
    }

    @Test
    void addressesAndParametersAreBounded() {
        String to = repeated(12_000, i -> "a" + i + "@far.example, ");
        MailItem mail = item("From: bram@skarvik.example\r\n" + repeated(20, i -> "To: " + to + "\r\n") + "\r\nx");
        assertThat(mail.parties()).hasSizeLessThanOrEqualTo(500);
        assertThat(mail.inside().cut()).isTrue();
        String pieces = repeated(4_000, i -> ";\r\n filename*" + i + "=piece");
        read(HEAD + "Content-Type: multipart/mixed; boundary=b\r\n\r\n"
                + repeated(480, i -> "--b\r\nContent-Disposition: attachment" + pieces + "\r\n\r\nx\r\n")
                + "--b--\r\n");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Mon,  4 May 2026 09:30:00  +0200|2026-05-04T07:30:00Z",
                "Mon, 04 May 2026 09:30:00  +0200|2026-05-04T07:30:00Z",
                "Mon,4 May 2026 09:30:00 +0200|2026-05-04T07:30:00Z",
                "Mon, 4 May 2026 09:30:00 +0200 (CEST (summer))|2026-05-04T07:30:00Z",
                "Mon (a remark), 4 (another) May 2026 09:30:00 +0200|2026-05-04T07:30:00Z",
                "Monday, 4 May 2026 09:30:00 +0200|2026-05-04T07:30:00Z",
                "4 September 2025 09:30 -0730|2025-09-04T17:00:00Z",
                "4 May 126 09:30:00 +0000|2026-05-04T09:30:00Z",
                "4 May 26 09:30:00 GMT|2026-05-04T09:30:00Z",
                "Mon May  4 09:30:00 2026|2026-05-04T09:30:00Z",
                "Mon May  4 09:30:00 EDT 2026|2026-05-04T13:30:00Z",
                "Sun, 3 May 2026 21:30:00 HST|2026-05-04T07:30:00Z",
                "Mon, 4 May 2026 09:30:00 +02:00|2026-05-04T07:30:00Z",
                "Mon, 4 May 2026 09:30:60 +0200|2026-05-04T07:30:59Z"
            })
    void datesAreReadInAllTheirForms(String date, String expected) {
        MailItem mail = item(HEAD + "Date: " + date + "\r\n\r\nx");
        assertThat(mail.dateFromHeader()).isTrue();
        assertThat(mail.at()).isEqualTo(expected);
    }

    @Test
    void aDateThatIsNoneIsThatOfTheServer() {
        for (String date : new String[] {
            "yesterday",
            "Mon, 44 May 2026 09:30:00 +0200",
            "4 May 2126 09:30:00 +0000",
            "((((",
            "4 Foo 2026 09:30 +0000"
        }) {
            assertThat(item(HEAD + "Date: " + date + "\r\n\r\nx").at()).isEqualTo(RECEIVED);
        }
    }

    @Test
    void textThatGoesOnBeyondWhatWasFetchedIsMarkedAsCut() {
        byte[] bytes = (HEAD + "\r\nThe beginning of a long").getBytes(StandardCharsets.UTF_8);
        MailReader reader = new MailReader(MailLimits.USUAL);
        assertThat(((MailItem) reader.read(bytes, RECEIVED, "x", true).item())
                        .inside()
                        .cut())
                .isTrue();
        assertThat(((MailItem) reader.read(bytes, RECEIVED, "x", false).item())
                        .inside()
                        .cut())
                .isFalse();
    }

    @Test
    void whatIsShownInItsPlaceIsTextWhateverItIsCalled() {
        String body =
                "--b\r\nContent-Type: text/plain; name=body.txt\r\nContent-Disposition: inline; filename=body.txt\r\n\r\nHello there\r\n"
                        + "--b\r\nContent-Type: text/plain; name=notes.txt\r\n\r\nnotes\r\n--b--\r\n";
        ReadMail mail = read(HEAD + "Content-Type: multipart/mixed; boundary=b\r\n\r\n" + body);
        assertThat(mail.content().text().strip()).isEqualTo("Hello there");
        assertThat(mail.attachments()).extracting(a -> a.name()).containsExactly("notes.txt");
    }

    @Test
    void aLocalPartInQuotesMayHaveABlank() {
        assertThat(item("From: \"bram holm\"@skarvik.example\r\nTo: maren@corvane.example\r\n\r\nx")
                        .parties()
                        .get(0)
                        .address())
                .hasToString("\"bram holm\"@skarvik.example");
    }

    @Test
    void aBoundaryInItsExtendedFormIsOne() {
        String body = "--a b\r\nContent-Type: text/plain\r\n\r\nHello\r\n--a b--\r\n";
        for (String boundary :
                new String[] {"boundary*=us-ascii''a%20b", "boundary*0*=utf-8'en'a%20b", "Boundary*=\"us-ascii''a%20b\""
                }) {
            assertThat(read(HEAD + "Content-Type: multipart/mixed; " + boundary + "\r\n\r\n" + body)
                            .content()
                            .text()
                            .strip())
                    .as(boundary)
                    .isEqualTo("Hello");
        }
        assertThat(read(HEAD + "Content-Type: multipart/mixed; boundary=\"a b\"\r\n\r\n" + body)
                        .content()
                        .text()
                        .strip())
                .isEqualTo("Hello");
    }

    @Test
    void aLineOfBlanksEndsTheHeader() {
        ReadMail mail = read(HEAD + "  \r\nHello: this is text\r\n");
        assertThat(mail.content().text()).isEmpty();
        assertThat(read(HEAD + " \t \r\nHello, this is text\r\n").content().text())
                .contains("Hello, this is text");
        assertThat(item(HEAD + "Hello there\r\n\r\nx").parties()).hasSize(2);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "mailer-daemon@far.example|multipart/report; boundary=b",
                "MAILER-DAEMON@far.example|multipart/report; report-type=\"delivery-status\"; boundary=b",
                "Mail Delivery <postmaster@far.example>|multipart/report; boundary=b; report-type=delivery-status",
                "someone@far.example|multipart/report; boundary=b; report-type=delivery-status"
            })
    void reportsOfUndeliveredMailAreKnownWithoutAnEmptyReturnPath(String from, String type) {
        MailItem mail = item(
                "From: " + from + "\r\nTo: maren@corvane.example\r\nContent-Type: " + type
                        + "\r\n\r\n--b\r\n\r\nx\r\n--b\r\nContent-Type: message/delivery-status\r\n\r\nStatus: 5.1.1\r\n--b--\r\n");
        assertThat(mail.nature().kind()).isEqualTo(Nature.Kind.BOUNCE);
    }

    @Test
    void theTrailSaysWhichHeaderItWasAndNotWhatItSaid() {
        for (String header : new String[] {
            "List-Id: The secret project <secret.lists.example>",
            "X-Autoreply: Dr. Moreau is away",
            "Auto-Submitted: secret-word",
            "List-Unsubscribe: <https://secret.example>"
        }) {
            assertThat(item(HEAD + header + "\r\n\r\nx").nature().evidence())
                    .doesNotContainIgnoringCase("secret")
                    .doesNotContain("Moreau");
        }
    }
}
