package jandrel.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.subethamail.smtp.server.SMTPServer;

/**
 * A mail server that keeps all it is given in a folder, and the made-up customers behind it: whoever is invited answers with their
 * calendar program (RFC 6047) into the organiser's mailbox.
 */
final class Customers {
    private static final Pattern FIELD = Pattern.compile("(?m)^(UID|SEQUENCE|ORGANIZER[^:]*):(.*?)\\r?$");
    private final Providers providers;
    private final Path outbox;
    private int kept;

    Customers(Stand stand) throws IOException {
        this.providers = new Providers(stand);
        this.outbox = Files.createDirectories(stand.dir().resolve("outbox"));
    }

    void serve(int port) {
        SMTPServer.port(port)
                .bindAddress(java.net.InetAddress.getLoopbackAddress())
                .messageHandler((context, from, to, data) -> take(to, data))
                .build()
                .start();
    }

    private synchronized void take(String to, byte[] data) {
        try {
            Files.write(
                    outbox.resolve(String.format("%03d-%s.eml", ++kept, to.replaceAll("[^A-Za-z0-9.@-]", "_"))), data);
            String text = new String(data, StandardCharsets.UTF_8)
                    .replace("=\r\n", "")
                    .replace("=3D", "=")
                    .replace("\r\n ", "");
            if (text.contains("METHOD:REQUEST")) {
                answer(to, text);
            }
        } catch (IOException failed) {
            System.err.println("demo: a message could not be kept: " + failed.getMessage());
        }
    }

    private void answer(String guest, String invitation) throws IOException {
        String uid = "";
        String sequence = "0";
        String organiser = "";
        Matcher m = FIELD.matcher(invitation);
        while (m.find()) {
            switch (m.group(1).substring(0, 3)) {
                case "UID" -> uid = m.group(2);
                case "SEQ" -> sequence = m.group(2);
                default -> organiser = m.group(2).replace("mailto:", "");
            }
        }
        // most come, some are not sure yet
        String says = Math.floorMod(guest.hashCode(), 4) == 0 ? "TENTATIVE" : "ACCEPTED";
        Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        String reply = String.join(
                "\r\n",
                "Message-ID: <" + Math.floorMod((uid + guest + sequence).hashCode(), 1_000_000) + "@"
                        + guest.replaceAll("^.*@", "") + ">",
                "From: " + guest,
                "To: " + organiser,
                "Subject: " + (says.equals("ACCEPTED") ? "Accepted" : "Perhaps"),
                "MIME-Version: 1.0",
                "Content-Type: text/calendar; method=REPLY; charset=UTF-8",
                "",
                "BEGIN:VCALENDAR",
                "VERSION:2.0",
                "PRODID:-//Customers//made up//EN",
                "METHOD:REPLY",
                "BEGIN:VEVENT",
                "UID:" + uid,
                "SEQUENCE:" + sequence,
                "DTSTAMP:" + now.toString().replaceAll("[-:]", ""),
                "ORGANIZER:mailto:" + organiser,
                "ATTENDEE;PARTSTAT=" + says + ":mailto:" + guest,
                "END:VEVENT",
                "END:VCALENDAR",
                "");
        providers.mail(organiser, "", now, reply);
    }
}
