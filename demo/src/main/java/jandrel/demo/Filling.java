package jandrel.demo;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileTime;
import java.security.GeneralSecurityException;
import java.time.LocalDate;
import java.util.Base64;
import java.util.List;
import java.util.Map;

/** Puts the story into the providers: mail as Maildir files, with the server's time of receipt; calendars by CalDAV; address books by CardDAV. */
final class Filling {
    private static final long SEED = 4471;
    private static final String NAMED =
            "<d:propertyupdate xmlns:d='DAV:'><d:set><d:prop><d:displayname>Work</d:displayname>"
                    + "</d:prop></d:set></d:propertyupdate>";
    private final Stand stand;
    private final Cast cast = new Cast(SEED);

    Filling(Stand stand) {
        this.stand = stand;
    }

    Cast cast() {
        return cast;
    }

    Prospects prospects(LocalDate today) {
        return new Prospects(cast, today, SEED);
    }

    /** The day for which the story is told. */
    LocalDate today() throws IOException {
        return LocalDate.parse(Files.readString(stand.dir().resolve("filled")).substring(0, 10));
    }

    /** @return false if the story is there already */
    boolean fill(LocalDate today) throws IOException, GeneralSecurityException, InterruptedException {
        Path done = stand.dir().resolve("filled");
        if (Files.exists(done)) {
            return false;
        }
        addUsers();
        int copies = mail(new Letters(cast, today, SEED).all());
        int events = calendars(new Diary(cast, prospects(today), today, SEED).calendars());
        int cards = new AddressBooks(cast, stand).fill();
        Files.writeString(done, today + " " + copies + " messages, " + events + " events, " + cards + " cards\n");
        return true;
    }

    private void addUsers() throws IOException {
        StringBuilder calendar = new StringBuilder();
        for (Cast.Person p : cast.people) {
            Files.writeString(
                    stand.dir().resolve("dovecot/users").resolve(p.address()),
                    p.address() + ":" + Providers.PASSWORD + "::::::\n");
            calendar.append(p.address()).append(':').append(Providers.PASSWORD).append('\n');
        }
        Files.writeString(stand.dir().resolve("radicale/users"), calendar, StandardOpenOption.APPEND);
    }

    private int mail(List<Letter> letters) throws IOException {
        List<Letter> byTime = letters.stream()
                .sorted(java.util.Comparator.comparing(Letter::at))
                .toList();
        int n = 0;
        for (Letter letter : byTime) {
            for (String inbox : letter.inboxes()) {
                put(letter, Path.of(inbox, "Maildir"), n++);
            }
            String sentBy = letter.sentBy();
            if (sentBy != null) {
                put(letter, Path.of(sentBy, "Maildir", ".Sent"), n++);
            }
        }
        return n;
    }

    private void put(Letter letter, Path folder, int n) throws IOException {
        Path dir = stand.dir().resolve("mail").resolve(folder);
        for (String sub : new String[] {"cur", "new", "tmp"}) {
            Files.createDirectories(dir.resolve(sub));
        }
        byte[] bytes = letter.bytes();
        String name = letter.at().getEpochSecond() + ".M" + String.format("%06d", n) + ".corvane" + Letter.sizes(bytes)
                + ":2,S";
        Path file = dir.resolve("cur").resolve(name);
        Files.write(file, bytes);
        Files.setLastModifiedTime(file, FileTime.from(letter.at().plusSeconds(4)));
    }

    private static void send(HttpClient http, URI at, String basic, String method, String type, String body)
            throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(at)
                .header("Authorization", "Basic " + basic)
                .header("Content-Type", type)
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build();
        int status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
        if (status / 100 != 2) {
            throw new IOException("Radicale answered " + method + " with status " + status);
        }
    }

    private int calendars(Map<String, String> calendars)
            throws IOException, GeneralSecurityException, InterruptedException {
        HttpClient http = stand.http();
        int events = 0;
        for (Map.Entry<String, String> entry : calendars.entrySet()) {
            String basic = Base64.getEncoder()
                    .encodeToString((entry.getKey() + ":" + Providers.PASSWORD).getBytes(StandardCharsets.UTF_8));
            URI calendar = URI.create(stand.value("CALDAV") + "/" + entry.getKey() + "/diary/");
            send(http, calendar, basic, "PUT", "text/calendar; charset=utf-8", entry.getValue());
            send(http, calendar, basic, "PROPPATCH", "application/xml", NAMED);
            events += entry.getValue().split("BEGIN:VEVENT", -1).length - 1;
        }
        return events;
    }
}
