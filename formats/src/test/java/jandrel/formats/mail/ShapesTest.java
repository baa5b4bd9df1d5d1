package jandrel.formats.mail;

import jandrel.core.item.Content;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

/** Shapes that take other readers a time that grows with their square. */
class ShapesTest {
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    /** Ten times the input may cost some ten times as much, never a hundred times: a shape that hangs would show at once. */
    @Test
    void shapesThatHangOtherReadersDoNotHangThisOne() {
        List<String> shapes = List.of(
                "(",
                "<",
                "\"",
                "=?utf-8?B?",
                "\\",
                ",",
                ":",
                "a@b,",
                "=\r\n",
                "\r\n ",
                "[",
                "+0 ",
                ">",
                "\r\n> ",
                "<div>",
                "<a href=",
                "&lt;",
                "--b\r\n");
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            for (String shape : shapes) {
                String many = shape.repeat(120_000 / shape.length());
                for (String header :
                        List.of("From: ", "To: a@b.example\r\nSubject: ", "References: ", "Date: ", "Content-Type: ")) {
                    read(header + many + "\r\n\r\nx");
                }
                read("From: a@b.example\r\n\r\n" + many);
                read("From: a@b.example\r\nContent-Type: text/html\r\n\r\n" + many);
                read("From: a@b.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n" + many);
            }
        });
    }

    private void read(String message) {
        Content content = reader.read(message.getBytes(java.nio.charset.StandardCharsets.UTF_8), RECEIVED, "here")
                .content();
        NewText.of(content.text());
        new Phones("").in(content.text());
    }
}
