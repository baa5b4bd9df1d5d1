package jandrel.acceptance;

import jandrel.demo.Stand;
import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyPair;
import java.security.KeyPairGenerator;
import java.util.Base64;

/** The stand-in authorisation server, in a process of its own, where the stand's mail server asks about tokens. */
final class StandinProcess implements AutoCloseable {
    private final Process process;
    private final HttpClient http;
    private final String own;
    private final String url;
    private final Path folder;
    final String organisationKey;

    /** @param publicPort of the line by which the service and browsers come to it */
    StandinProcess(Stand stand, int publicPort, String redirect, String password) throws Exception {
        this(stand, stand.port("TOKENS"), publicPort, redirect, password);
    }

    /** A provider that people sign in at, and no mail server asks. */
    static StandinProcess provider(Stand stand, String redirect, String password) throws Exception {
        int port = freePort();
        return new StandinProcess(stand, port, port, redirect, password);
    }

    private StandinProcess(Stand stand, int port, int publicPort, String redirect, String password) throws Exception {
        own = "https://127.0.0.1:" + port;
        url = "https://127.0.0.1:" + publicPort;
        http = stand.http();
        folder = Files.createTempDirectory(Path.of("target"), "standin");
        KeyPairGenerator generator = KeyPairGenerator.getInstance("RSA");
        generator.initialize(2048);
        KeyPair pair = generator.generateKeyPair();
        organisationKey = pem("PRIVATE KEY", pair.getPrivate().getEncoded());
        Path publicKey = Files.writeString(
                folder.resolve("public.pem"), pem("PUBLIC KEY", pair.getPublic().getEncoded()));
        ProcessBuilder builder = new ProcessBuilder(
                "java", "-XX:TieredStopAtLevel=1", "-Xmx256m", "-jar", "../standin/target/app/standin.jar");
        builder.environment().put("STANDIN_PORT", String.valueOf(port));
        builder.environment().put("STANDIN_PUBLIC_PORT", String.valueOf(publicPort));
        builder.environment().put("STANDIN_CERTIFICATE", "file:" + stand.dir().resolve("tls/server.pem"));
        builder.environment().put("STANDIN_KEY", "file:" + stand.dir().resolve("tls/server.key"));
        builder.environment().put("STANDIN_CA", stand.value("CA"));
        builder.environment().put("STANDIN_PASSWORD", password);
        builder.environment().put("STANDIN_REDIRECT", redirect);
        builder.environment()
                .put("STANDIN_SIGN_ON_REDIRECT", redirect.replace("/api/consent", "/api/session/provider"));
        builder.environment().put("STANDIN_CALDAV", stand.value("CALDAV"));
        builder.environment()
                .put("STANDIN_ORGANISATION_KEY", publicKey.toAbsolutePath().toString());
        process = builder.redirectErrorStream(true)
                .redirectOutput(folder.resolve("log").toFile())
                .start();
        Runtime.getRuntime().addShutdownHook(new Thread(process::destroyForcibly));
        for (int n = 0; !isUp(); n++) {
            if (n > 300 || !process.isAlive()) {
                throw new IllegalStateException("the stand-in did not come up; see " + folder.resolve("log"));
            }
            Thread.sleep(200);
        }
    }

    private static String pem(String what, byte[] bytes) {
        return "-----BEGIN " + what + "-----\n" + Base64.getMimeEncoder().encodeToString(bytes) + "\n-----END " + what
                + "-----\n";
    }

    static int freePort() throws IOException {
        try (ServerSocket free = new ServerSocket(0)) {
            return free.getLocalPort();
        }
    }

    private boolean isUp() throws InterruptedException {
        try {
            return ask("GET", "/.well-known/oauth-authorization-server").statusCode() == 200;
        } catch (IOException notYet) {
            return false;
        }
    }

    private HttpResponse<String> ask(String method, String path) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(URI.create(own + path))
                        .method(method, HttpRequest.BodyPublishers.noBody())
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    /** As when the person's password was reset: nothing that was granted counts any more. */
    int takeBack(String person) throws Exception {
        return Integer.parseInt(ask("POST", "/stand/take-back?person=" + person).body());
    }

    void rotateKeys() throws Exception {
        ask("POST", "/stand/rotate");
    }

    /**
     * @param lie what is wrong with ID tokens from now on; empty for nothing
     * @param groups separated by commas
     * @param email whose address is said, whoever signs in; empty for their own
     */
    void say(String lie, String groups, String email) throws Exception {
        ask("POST", "/stand/say?lie=" + encoded(lie) + "&groups=" + encoded(groups) + "&email=" + encoded(email));
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    String url() {
        return url;
    }

    @Override
    public void close() {
        process.destroy();
    }
}
