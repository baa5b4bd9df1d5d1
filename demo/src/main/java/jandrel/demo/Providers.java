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
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;

/** Puts accounts, mail and meetings into the stand's Dovecot and Radicale. */
public final class Providers {
    public static final String PASSWORD = "buoy-and-tide-26";
    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static final String DIARY = "diary/";
    private static final String PEOPLE = "people/";
    private final Stand stand;
    private final HttpClient http;

    public Providers(Stand stand) {
        this.stand = stand;
        try {
            http = stand.http();
        } catch (IOException | GeneralSecurityException broken) {
            throw new IllegalStateException("the stand's certificate cannot be read", broken);
        }
    }

    public void addUser(String address) throws IOException {
        password(address, PASSWORD);
        Files.writeString(
                stand.dir().resolve("radicale/users"), address + ":" + PASSWORD + "\n", StandardOpenOption.APPEND);
        for (String folder : new String[] {"", ".Sent"}) {
            for (String sub : new String[] {"cur", "new", "tmp"}) {
                directories(maildir(address, folder).resolve(sub));
            }
        }
    }

    /** Like {@link #addUser}, at a server that has none of the extensions of IMAP. */
    public void addPlainUser(String address) throws IOException {
        addUser(address);
        Files.writeString(
                stand.mailDir().resolve("dovecot/users").resolve(address),
                address + ":" + PASSWORD + "::::::userdb_imap_capability=IMAP4rev1\n");
    }

    /** Has the server number a person's inbox anew, as after a repair. */
    public void numberAnew(String address) throws IOException {
        Path list = maildir(address, "").resolve("dovecot-uidlist");
        String text = Files.readString(list, StandardCharsets.UTF_8);
        long validity = Long.parseLong(text.replaceAll("(?s)^.*? V(\\d+) .*$", "$1"));
        for (String file :
                new String[] {"dovecot.index", "dovecot.index.log", "dovecot.index.cache", "dovecot.list.index.log"}) {
            Files.deleteIfExists(maildir(address, "").resolve(file));
        }
        Files.writeString(list, text.replaceFirst(" V" + validity + " ", " V" + (validity + 7) + " "));
    }

    /** From the next sign-in on, Dovecot takes this password and no other. */
    public void password(String address, String password) throws IOException {
        Files.writeString(
                stand.mailDir().resolve("dovecot/users").resolve(address), address + ":" + password + "::::::\n");
    }

    private Path maildir(String address, String folder) {
        Path inbox = stand.mailDir().resolve("mail").resolve(address).resolve("Maildir");
        return folder.isEmpty() ? inbox : inbox.resolve(folder);
    }

    /** The server runs as a user of its own and must be able to write here. */
    private void directories(Path dir) throws IOException {
        Files.createDirectories(dir);
        for (Path p = dir; p != null && !p.equals(stand.mailDir().resolve("mail")); p = p.getParent()) {
            Files.setPosixFilePermissions(p, PosixFilePermissions.fromString("rwxrwxrwx"));
        }
    }

    /** As mail comes from outside: through the server, which files it and tells whoever listens. */
    public void arrives(String address, String message) throws IOException {
        Lmtp.deliver(stand.port("LMTP"), address, message.getBytes(StandardCharsets.UTF_8));
    }

    /**
     * Puts a message where the server keeps them.
     *
     * @param folder empty for the inbox, {@code .Sent} for the folder of sent mail
     */
    public void mail(String address, String folder, Instant received, byte[] message) throws IOException {
        String name = received.getEpochSecond() + ".M" + String.format(Locale.ROOT, "%08d", NUMBER.incrementAndGet())
                + ".test" + Letter.sizes(message);
        Path dir = maildir(address, folder);
        Path fresh = dir.resolve("tmp").resolve(name);
        Files.write(fresh, message);
        Files.setLastModifiedTime(fresh, FileTime.from(received));
        Files.move(fresh, dir.resolve("new").resolve(name));
    }

    public void mail(String address, String folder, Instant received, String message) throws IOException {
        mail(address, folder, received, message.getBytes(StandardCharsets.UTF_8));
    }

    /** Makes the person's calendar, empty. */
    public void calendar(String address) throws IOException, InterruptedException {
        dav("MKCALENDAR", address, DIARY, "");
    }

    /** Puts one calendar object, made of the lines given between BEGIN and END:VCALENDAR. */
    public void event(String address, String name, String... lines) throws IOException, InterruptedException {
        dav(
                "PUT",
                address,
                DIARY + name,
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Corvane//test//EN\r\n" + String.join("\r\n", lines)
                        + "\r\nEND:VCALENDAR\r\n");
    }

    public void removeEvent(String address, String name) throws IOException, InterruptedException {
        dav("DELETE", address, DIARY + name, "");
    }

    /** A file of the person's calendar as it is, unfolded; nothing when there is none such. */
    public Optional<String> file(String address, String name) throws IOException, InterruptedException {
        HttpResponse<String> answer = asked(request(address, DIARY + name).GET().build());
        return answer.statusCode() == 200 ? Optional.of(answer.body().replace("\r\n ", "")) : Optional.empty();
    }

    private HttpResponse<String> asked(HttpRequest request) throws IOException, InterruptedException {
        HttpResponse.BodyHandler<String> text = HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8);
        try {
            return http.send(request, text);
        } catch (IOException closed) {
            return http.send(request, text);
        }
    }

    /** Writes a file of the person's calendar as it is given. */
    public void file(String address, String name, String text) throws IOException, InterruptedException {
        dav("PUT", address, DIARY + name, text);
    }

    /** The names of all files of the person's calendar. */
    public List<String> files(String address) throws IOException, InterruptedException {
        return listed(address, DIARY);
    }

    private List<String> listed(String address, String collection) throws IOException, InterruptedException {
        HttpResponse<String> answer = asked(request(address, collection)
                .header("Depth", "1")
                .method("PROPFIND", HttpRequest.BodyPublishers.noBody())
                .build());
        return Pattern.compile("/" + collection + "([^/<]+)</href>")
                .matcher(answer.body().replaceAll("</[a-zA-Z]+:href>", "</href>"))
                .results()
                .map(r -> r.group(1))
                .distinct()
                .sorted()
                .toList();
    }

    /** Makes the person's address book, empty. */
    public void book(String address) throws IOException, InterruptedException {
        dav(
                "MKCOL",
                address,
                PEOPLE,
                "<d:mkcol xmlns:d='DAV:' xmlns:c='urn:ietf:params:xml:ns:carddav'><d:set><d:prop><d:resourcetype><d:collection/>"
                        + "<c:addressbook/></d:resourcetype><d:displayname>People</d:displayname></d:prop></d:set></d:mkcol>");
    }

    /** Puts one card, made of the lines given between VERSION:3.0 and END:VCARD. */
    public void card(String address, String name, String... lines) throws IOException, InterruptedException {
        wholeCard(address, name, "BEGIN:VCARD\r\nVERSION:3.0\r\n" + String.join("\r\n", lines) + "\r\nEND:VCARD\r\n");
    }

    /** Writes a card as it is given. */
    public void wholeCard(String address, String name, String text) throws IOException, InterruptedException {
        dav("PUT", address, PEOPLE + name, text);
    }

    public void removeCard(String address, String name) throws IOException, InterruptedException {
        dav("DELETE", address, PEOPLE + name, "");
    }

    /** A card as it is, unfolded; nothing when there is none such. */
    public Optional<String> cardText(String address, String name) throws IOException, InterruptedException {
        HttpResponse<String> answer =
                asked(request(address, PEOPLE + name).GET().build());
        return answer.statusCode() == 200 ? Optional.of(answer.body().replace("\r\n ", "")) : Optional.empty();
    }

    /** The names of all cards of the person's address book. */
    public List<String> cards(String address) throws IOException, InterruptedException {
        return listed(address, PEOPLE);
    }

    private HttpRequest.Builder request(String address, String path) {
        String basic = Base64.getEncoder().encodeToString((address + ":" + PASSWORD).getBytes(StandardCharsets.UTF_8));
        return HttpRequest.newBuilder(URI.create(stand.value("CALDAV") + "/" + address + "/" + path))
                .header("Authorization", "Basic " + basic);
    }

    private void dav(String method, String address, String path, String body) throws IOException, InterruptedException {
        HttpRequest request = request(address, path)
                .header(
                        "Content-Type",
                        (path.endsWith(".vcf")
                                        ? "text/vcard"
                                        : method.equals("MKCOL") ? "application/xml" : "text/calendar")
                                + "; charset=utf-8")
                .method(
                        method,
                        body.isEmpty()
                                ? HttpRequest.BodyPublishers.noBody()
                                : HttpRequest.BodyPublishers.ofString(body))
                .build();
        int status;
        try {
            status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
        } catch (IOException closed) {
            // a connection that Radicale closed while it was idle: once more, and what was done the first time is done
            status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
            status = (status == 404 && method.equals("DELETE")) || (status == 409 && method.startsWith("MKC"))
                    ? 204
                    : status;
        }
        if (status / 100 != 2) {
            throw new IOException("Radicale answered " + method + " with status " + status);
        }
    }
}
