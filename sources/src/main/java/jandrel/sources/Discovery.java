package jandrel.sources;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Hashtable;
import java.util.List;
import java.util.Optional;
import javax.naming.NamingEnumeration;
import javax.naming.NamingException;
import javax.naming.directory.Attribute;
import javax.naming.directory.InitialDirContext;

/** Finds where the servers of an address are: by DNS SRV (RFC 6186 for mail, RFC 6764 for calendars and address books), then by well-known address. */
// JNDI takes nothing else
@SuppressWarnings("JdkObsolete")
public final class Discovery {
    private final Names names;
    private final WellKnown wellKnown;

    /** Asks the name service; a test answers by itself. */
    @FunctionalInterface
    public interface Names {
        /** @return the records as the zone file writes them; empty when there are none */
        List<String> records(String name, String type);
    }

    /** Asks {@code https://HOST/.well-known/SERVICE}; a test answers by itself. */
    @FunctionalInterface
    public interface WellKnown {
        /**
         * @param service {@code caldav} or {@code carddav}
         * @return where it sends to, if it answers
         */
        Optional<URI> find(String service, String host);
    }

    /** @param how {@code srv}, {@code well-known} or {@code guess} */
    public record Found(String kind, String host, int port, String path, String how) {}

    private record Srv(int priority, int weight, int port, String host) {}

    public Discovery(Names names, WellKnown wellKnown) {
        this.names = names;
        this.wellKnown = wellKnown;
    }

    /** The likely servers of a domain, the mail server first; a guess is marked as one. */
    public List<Found> of(String domain) {
        List<Found> found = new ArrayList<>();
        found.add(srv("_imaps._tcp." + domain)
                .map(s -> new Found("imap", s.host(), s.port(), "/", "srv"))
                .orElseGet(() -> new Found("imap", "imap." + domain, 993, "/", "guess")));
        for (String service : List.of("caldav", "carddav")) {
            String name = "_" + service + "s._tcp." + domain;
            srv(name)
                    .map(s -> new Found(service, s.host(), s.port(), path(service, name), "srv"))
                    .or(() -> wellKnown
                            .find(service, domain)
                            .map(u -> new Found(
                                    service,
                                    u.getHost(),
                                    u.getPort() < 0 ? 443 : u.getPort(),
                                    u.getPath(),
                                    "well-known")))
                    .ifPresent(found::add);
        }
        return found;
    }

    /** The first by priority, then the heaviest; a lone dot says that there is no such service (RFC 2782). */
    private Optional<Srv> srv(String name) {
        return names.records(name, "SRV").stream()
                .map(r -> r.trim().split("\\s+", 0))
                .filter(p -> p.length == 4
                        && !p[3].equals(".")
                        && Arrays.stream(p).limit(3).allMatch(n -> n.matches("\\d{1,5}")))
                .map(p -> new Srv(
                        Integer.parseInt(p[0]),
                        Integer.parseInt(p[1]),
                        Integer.parseInt(p[2]),
                        p[3].endsWith(".") ? p[3].substring(0, p[3].length() - 1) : p[3]))
                .min(Comparator.comparingInt(Srv::priority).thenComparing(s -> -s.weight()));
    }

    /** RFC 6764 §4: a TXT record beside the SRV record names the path. */
    private String path(String service, String name) {
        return names.records(name, "TXT").stream()
                .map(t -> t.replace("\"", "").trim())
                .filter(t -> t.startsWith("path="))
                .map(t -> t.substring(5))
                .findFirst()
                .orElse("/.well-known/" + service);
    }

    /** By the name service that this machine uses. The provider is a fixed one that reads texts out of DNS, and nothing else. */
    @SuppressWarnings("BanJNDI")
    public static Names dns() {
        return (name, type) -> {
            Hashtable<String, String> settings = new Hashtable<>();
            settings.put("java.naming.factory.initial", "com.sun.jndi.dns.DnsContextFactory");
            settings.put("com.sun.jndi.dns.timeout.initial", "2000");
            settings.put("com.sun.jndi.dns.timeout.retries", "1");
            try {
                Attribute found = new InitialDirContext(settings)
                        .getAttributes(name, new String[] {type})
                        .get(type);
                List<String> records = new ArrayList<>();
                if (found != null) {
                    for (NamingEnumeration<?> each = found.getAll(); each.hasMore(); ) {
                        records.add(String.valueOf(each.next()));
                    }
                }
                return records;
            } catch (NamingException none) {
                return List.of();
            }
        };
    }

    /** Over HTTPS, with the usual trust; hosts that lead inward are not asked. */
    public static WellKnown https(Trust trust, Inward inward) {
        return (service, host) -> {
            URI at = URI.create("https://" + host + "/.well-known/" + service);
            try {
                inward.check(host);
                HttpResponse<Void> response = HttpClient.newBuilder()
                        .sslContext(trust.context())
                        .connectTimeout(Duration.ofSeconds(5))
                        .build()
                        .send(
                                HttpRequest.newBuilder(at)
                                        .timeout(Duration.ofSeconds(8))
                                        .build(),
                                HttpResponse.BodyHandlers.discarding());
                boolean there = response.statusCode() < 400 || response.statusCode() == 401;
                return there
                        ? Optional.of(at.resolve(response.headers()
                                        .firstValue("location")
                                        .orElse("")))
                                .filter(u -> "https".equals(u.getScheme()) && u.getHost() != null)
                        : Optional.empty();
            } catch (IOException | SourceTrouble none) {
                return Optional.empty();
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return Optional.empty();
            }
        };
    }
}
