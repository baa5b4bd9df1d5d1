package jandrel.demo;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** The real service in a process of its own, on a free port; for tests and measurements. */
public final class ServiceProcess implements AutoCloseable {
    public static final String ADMIN_PASSWORD = "harbour-lights-26";
    private static final Duration LONGEST_START = Duration.ofMinutes(1);
    /** EX_UNAVAILABLE of sysexits.h. */
    private static final int UNAVAILABLE = 69;

    private final Path layout;
    private final Path log;
    private final String memory;
    private final Map<String, String> settings;
    private final int port;
    private @Nullable Process process;

    /**
     * @param layout the folder that {@code bin/lib/archives.sh} laid out
     * @param folder for its log and its keys
     * @param memory such as {@code -Xmx512m}
     * @param settings as the environment names them
     */
    public ServiceProcess(Path layout, Path folder, String memory, Map<String, String> settings)
            throws IOException, InterruptedException {
        // the archive of its classes is for that very path
        this.layout = layout.toAbsolutePath().normalize();
        this.memory = memory;
        this.log = folder.resolve("service.log").toAbsolutePath();
        this.settings = new HashMap<>(settings);
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        // the stand-ins are on this very machine
        this.settings.putIfAbsent("JANDREL_ALLOWED_HOSTS", "127.0.0.1");
        this.settings.putIfAbsent("JANDREL_PUBLIC_URL", "http://127.0.0.1:" + port);
        this.settings.put("JANDREL_PORT", String.valueOf(port));
        this.settings.put(
                "JANDREL_KEY_FILE",
                folder.resolve("jandrel.key").toAbsolutePath().toString());
        this.settings.put("JANDREL_ADMINISTRATOR_PASSWORD", ADMIN_PASSWORD);
        start();
    }

    /** Starts it, once more after it was stopped or killed, and waits until it answers. */
    public void start() throws IOException, InterruptedException {
        Service service = new Service(url());
        Process started = begin();
        long began = System.nanoTime();
        while (!service.isUp()) {
            if (!started.isAlive() && started.exitValue() == UNAVAILABLE) {
                // as whatever runs a service does it: its database may be there the next time
                started = begin();
            }
            Duration waited = Duration.ofNanos(System.nanoTime() - began);
            if (waited.compareTo(StolenTime.patience(LONGEST_START)) > 0 || !started.isAlive()) {
                throw new IllegalStateException("the service did not come up in " + waited.toSeconds()
                        + " s; the last of " + log + ": " + lastLine());
            }
            Thread.sleep(200);
        }
    }

    private Process begin() throws IOException {
        ProcessBuilder builder = new ProcessBuilder(List.of(
                "java",
                memory,
                // as bin/serve starts it
                "-XX:+UseParallelGC",
                "@" + layout.resolve("options"),
                "-Duser.timezone=UTC",
                "-jar",
                layout.resolve("service.jar").toString()));
        builder.environment().putAll(settings);
        Process started = builder.redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
                .start();
        process = started;
        Runtime.getRuntime().addShutdownHook(new Thread(started::destroyForcibly));
        return started;
    }

    /** What it said last; services say nothing that is private. */
    private String lastLine() throws IOException {
        return log().strip().lines().reduce("", (before, line) -> line);
    }

    private Process running() {
        Process now = process;
        if (now == null) {
            throw new IllegalStateException("the service was not started");
        }
        return now;
    }

    public long pid() {
        return running().pid();
    }

    public boolean isAlive() {
        return running().isAlive();
    }

    /** As a power cut does it. */
    public void kill() throws InterruptedException {
        running().destroyForcibly().waitFor();
    }

    /** As an operator does it. */
    public void stop() throws InterruptedException {
        running().destroy();
        if (!running().waitFor(StolenTime.patience(Duration.ofSeconds(40)).toMillis(), TimeUnit.MILLISECONDS)) {
            throw new IllegalStateException("the service does not stop when asked to");
        }
    }

    public String url() {
        return "http://127.0.0.1:" + port;
    }

    public Service signedIn(String login, String password) throws IOException, InterruptedException {
        Service service = new Service(url());
        service.signIn(login, password);
        return service;
    }

    public Service administrator() throws IOException, InterruptedException {
        return signedIn("admin", ADMIN_PASSWORD);
    }

    public String log() throws IOException {
        return Files.readString(log);
    }

    @Override
    public void close() {
        running().destroy();
    }
}
