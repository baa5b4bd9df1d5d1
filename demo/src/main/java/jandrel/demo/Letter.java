package jandrel.demo;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** One message, and in whose folders it lies. */
final class Letter {
    private static final DateTimeFormatter DATE = DateTimeFormatter.ofPattern(
                    "EEE, d MMM uuuu HH:mm:ss Z", Locale.ENGLISH)
            .withZone(ZoneOffset.UTC);
    private final Map<String, String> headers = new LinkedHashMap<>();
    private final String text;
    private final Instant at;
    private final List<String> inboxes = new ArrayList<>();
    private @Nullable String sentBy;
    private @Nullable String html;
    private @Nullable String attachment;
    private @Nullable String raw;

    Letter(String id, Instant at, String from, String to, String subject, String text) {
        this.at = at;
        this.text = text;
        headers.put("Message-ID", "<" + id + ">");
        headers.put("Date", DATE.format(at));
        headers.put("From", mailboxes(from));
        headers.put("To", mailboxes(to));
        headers.put("Subject", encoded(subject));
        headers.put("MIME-Version", "1.0");
    }

    Letter header(String name, String value) {
        headers.put(name, value);
        return this;
    }

    Letter cc(String mailboxes) {
        return header("Cc", mailboxes(mailboxes));
    }

    Letter html(String body) {
        html = body;
        return this;
    }

    Letter attached(String fileName) {
        attachment = fileName;
        return this;
    }

    /** In place of all else: bytes that are no message. */
    Letter raw(String bytes) {
        raw = bytes;
        return this;
    }

    Letter in(String address) {
        inboxes.add(address);
        return this;
    }

    Letter sent(String address) {
        sentBy = address;
        return this;
    }

    Instant at() {
        return at;
    }

    List<String> inboxes() {
        return inboxes;
    }

    @Nullable
    String sentBy() {
        return sentBy;
    }

    byte[] bytes() {
        if (raw != null) {
            return raw.getBytes(StandardCharsets.ISO_8859_1);
        }
        String head = headers.entrySet().stream()
                .map(h -> h.getKey() + ": " + h.getValue() + "\r\n")
                .collect(Collectors.joining());
        return (head + body()).getBytes(StandardCharsets.UTF_8);
    }

    private String body() {
        String plain = "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\n" + crlf(text)
                + "\r\n";
        if (headers.containsKey("Content-Type")) {
            return "\r\n" + crlf(text) + "\r\n";
        }
        if (html == null && attachment == null) {
            return plain;
        }
        String inner = html == null
                ? plain
                : "Content-Type: multipart/alternative; boundary=alt\r\n\r\n--alt\r\n" + plain
                        + "--alt\r\nContent-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\n"
                        + crlf(html)
                        + "\r\n--alt--\r\n";
        if (attachment == null) {
            return inner;
        }
        String bytes = Base64.getMimeEncoder()
                .encodeToString(("%PDF-1.4 " + attachment + " ").repeat(400).getBytes(StandardCharsets.US_ASCII));
        return "Content-Type: multipart/mixed; boundary=mix\r\n\r\n--mix\r\n" + inner
                + "--mix\r\nContent-Type: application/pdf; name=\"" + attachment
                + "\"\r\nContent-Disposition: attachment; filename=\""
                + attachment + "\"\r\nContent-Transfer-Encoding: base64\r\n\r\n" + bytes + "\r\n--mix--\r\n";
    }

    private static String crlf(String s) {
        return s.replace("\n", "\r\n");
    }

    /** Display names that are not ASCII as encoded words (RFC 2047). */
    private static String mailboxes(String list) {
        return java.util.Arrays.stream(list.split(", ", 0))
                .map(m -> {
                    int cut = m.indexOf(" <");
                    return cut < 0 ? m : encoded(m.substring(0, cut)) + m.substring(cut);
                })
                .collect(Collectors.joining(", "));
    }

    private static String encoded(String words) {
        boolean ascii = words.chars().allMatch(c -> c < 128);
        return ascii
                ? words
                : "=?utf-8?B?" + Base64.getEncoder().encodeToString(words.getBytes(StandardCharsets.UTF_8)) + "?=";
    }

    /** How large a message is, and how large it is as it is sent, as Dovecot puts it into the names of the files that it makes itself. */
    static String sizes(byte[] message) {
        int sent = message.length;
        for (int i = 0; i < message.length; i++) {
            if (message[i] == '\n' && (i == 0 || message[i - 1] != '\r')) {
                sent++;
            }
        }
        return ",S=" + message.length + ",W=" + sent;
    }
}
