package jandrel.bench;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import jandrel.demo.StandTls;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Base64;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * What asking Radicale for a whole collection takes, with all of it thrown away.
 *
 * @param folder of each person, with a slash behind it
 * @param ending of its files
 * @param multiget how they are asked for: the report's name, and that of what is wanted of each
 */
record DavFloor(Stand stand, String folder, String ending, String namespace, String multiget, String data) {
    private static final int BATCH = 100;

    URI collection(String who) {
        return URI.create(stand.value("CALDAV") + "/" + who + "/" + folder);
    }

    HttpClient http() throws Exception {
        return HttpClient.newBuilder()
                .sslContext(StandTls.context(stand))
                .version(HttpClient.Version.HTTP_1_1)
                .build();
    }

    static String authorization(String who) {
        return "Basic "
                + Base64.getEncoder().encodeToString((who + ":" + Providers.PASSWORD).getBytes(StandardCharsets.UTF_8));
    }

    /** @return seconds */
    double seconds(String who, int expected) throws Exception {
        HttpClient http = http();
        long began = System.nanoTime();
        String listing = report(
                http,
                who,
                "<d:sync-collection xmlns:d='DAV:'><d:sync-token/><d:sync-level>1</d:sync-level><d:prop><d:getetag/>"
                        + "</d:prop></d:sync-collection>");
        List<String> hrefs = Pattern.compile("href>([^<]+\\" + ending + ")<")
                .matcher(listing)
                .results()
                .map(r -> r.group(1))
                .toList();
        if (hrefs.size() != expected) {
            throw new IllegalStateException("Radicale lists " + hrefs.size());
        }
        for (int from = 0; from < hrefs.size(); from += BATCH) {
            StringBuilder ask = new StringBuilder("<c:" + multiget + " xmlns:d='DAV:' xmlns:c='" + namespace
                    + "'><d:prop><d:getetag/><c:" + data + "/></d:prop>");
            hrefs.subList(from, Math.min(hrefs.size(), from + BATCH))
                    .forEach(h -> ask.append("<d:href>").append(h).append("</d:href>"));
            report(http, who, ask.append("</c:" + multiget + ">").toString());
        }
        return (System.nanoTime() - began) / 1e9;
    }

    private String report(HttpClient http, String who, String ask) throws IOException, InterruptedException {
        HttpRequest request = HttpRequest.newBuilder(collection(who))
                .header("Authorization", authorization(who))
                .header("Content-Type", "application/xml; charset=utf-8")
                .header("Depth", "1")
                .timeout(Duration.ofMinutes(15))
                .method("REPORT", HttpRequest.BodyPublishers.ofString(ask))
                .build();
        try {
            return http.send(request, HttpResponse.BodyHandlers.ofString()).body();
        } catch (IOException closed) {
            // the server now and then closes a connection without an answer, or gives none; ours asks again, too
            return http.send(request, HttpResponse.BodyHandlers.ofString()).body();
        }
    }

    /** Where the server keeps somebody's collection, by one of its files. */
    Path kept(String who, String file) throws IOException {
        try (Stream<Path> all = Files.walk(stand.dir())) {
            return all.filter(p -> p.endsWith(file)
                            && p.toString().contains(who)
                            && !p.toString().contains(".cache"))
                    .findFirst()
                    .map(Path::getParent)
                    .orElseThrow();
        }
    }
}
