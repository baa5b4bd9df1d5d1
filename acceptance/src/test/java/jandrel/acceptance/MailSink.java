package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.subethamail.smtp.server.SMTPServer;

/** The company's mail server, as far as the service's own letters go. */
final class MailSink implements AutoCloseable {
    private static final Pattern LINK = Pattern.compile("/welcome#([A-Za-z0-9_-]{43})");

    record Letter(String to, String text) {
        String subject() {
            return text.replaceFirst("(?s).*?\nSubject: (.*?)\r\n.*", "$1");
        }

        /** What the address in it ends with. */
        String link() {
            Matcher found = LINK.matcher(text.replace("=\r\n", ""));
            return found.find() ? found.group(1) : "";
        }
    }

    private final List<Letter> letters = new CopyOnWriteArrayList<>();
    private final SMTPServer server;

    MailSink() throws IOException {
        server = SMTPServer.port(StandinProcess.freePort())
                .messageHandler((context, from, to, data) ->
                        letters.add(new Letter(to, new String(data, StandardCharsets.UTF_8))))
                .build();
        server.start();
    }

    Map<String, String> settings() {
        return Map.of(
                "JANDREL_SMTP_HOST", "127.0.0.1",
                "JANDREL_SMTP_PORT", String.valueOf(server.getPort()),
                "JANDREL_SMTP_TLS", "false",
                "JANDREL_SMTP_FROM", "jandrel@corvane.example");
    }

    List<Letter> all() {
        return List.copyOf(letters);
    }

    List<Letter> to(String address) {
        return letters.stream().filter(l -> l.to().equals(address)).toList();
    }

    /** The newest link in letters to somebody, once they have had so many. Other letters may come in between. */
    String link(String address, int links) {
        soon().until(() -> links(address).size() >= links);
        return links(address).get(links(address).size() - 1);
    }

    private List<String> links(String address) {
        return to(address).stream()
                .map(Letter::link)
                .filter(link -> !link.isEmpty())
                .toList();
    }

    @Override
    public void close() {
        server.stop();
    }
}
