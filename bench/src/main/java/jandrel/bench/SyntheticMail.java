package jandrel.bench;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Base64;
import java.util.Locale;
import java.util.SplittableRandom;

/** A mailbox as they are: 6 KB in the median, one in ten with an attachment, two in three from known people. */
final class SyntheticMail {
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern(
                    "EEE, d MMM uuuu HH:mm:ss Z", Locale.ENGLISH)
            .withZone(ZoneOffset.UTC);
    private static final String[] WORDS = {
        "the",
        "buoy",
        "chain",
        "at",
        "low",
        "water",
        "we",
        "shall",
        "see",
        "lantern",
        "sensor",
        "drift",
        "of",
        "four",
        "centimetres",
        "quay",
        "harbour",
        "delivery",
        "before",
        "winter",
        "please",
        "look",
        "again",
        "and",
        "thank",
        "you"
    };
    private final SplittableRandom random = new SplittableRandom(11);

    byte[] letter(int n, Instant at, String to) {
        String from = n % 3 == 2
                ? "someone" + n + "@elsewhere" + n % 997 + ".example"
                : "c" + n % 40 + "@a" + n % 25 + ".example";
        String head = "Return-Path: <" + from + ">\r\nReceived: from mx by mail.corvane.example; " + DATE.format(at)
                + "\r\nMessage-ID: <" + n
                + ".bench@x.example>\r\nDate: " + DATE.format(at) + "\r\nFrom: Contact " + n % 40 + " <" + from
                + ">\r\nTo: " + to
                + "\r\nSubject: About item " + n + "\r\nMIME-Version: 1.0\r\n";
        String text = text(1_500 + random.nextInt(5_000));
        String body =
                "Content-Type: multipart/alternative; boundary=\"alt\"\r\n\r\n--alt\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n"
                        + text + "\r\n--alt\r\nContent-Type: text/html; charset=utf-8\r\n\r\n<html><body><p>"
                        + text.substring(0, text.length() / 2) + "</p></body></html>\r\n--alt--\r\n";
        if (n % 10 == 0) {
            byte[] bytes = new byte[20_000 + random.nextInt(60_000)];
            for (int i = 0; i < bytes.length; i++) {
                bytes[i] = (byte) random.nextInt();
            }
            body = "Content-Type: multipart/mixed; boundary=\"mix\"\r\n\r\n--mix\r\n" + body
                    + "--mix\r\nContent-Type: application/pdf; name=\"d.pdf\"\r\nContent-Transfer-Encoding: base64\r\n\r\n"
                    + Base64.getMimeEncoder().encodeToString(bytes) + "\r\n--mix--\r\n";
        }
        return (head + body).getBytes(StandardCharsets.UTF_8);
    }

    String text(int length) {
        StringBuilder text = new StringBuilder(length + 20);
        while (text.length() < length) {
            text.append(WORDS[random.nextInt(WORDS.length)]).append(random.nextInt(12) == 0 ? ".\r\n" : " ");
        }
        return text.toString();
    }
}
