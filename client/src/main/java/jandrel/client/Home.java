package jandrel.client;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;

/** Where the sign-in is kept: a file of the user's own, or the environment. */
final class Home {
    record SignIn(String url, String token) {}

    private final Map<String, String> environment;

    Home(Map<String, String> environment) {
        this.environment = environment;
    }

    String variable(String name) {
        return environment.getOrDefault(name, "");
    }

    /** XDG Base Directory Specification. */
    private Path file() {
        String config = variable("XDG_CONFIG_HOME");
        Path base = config.isEmpty() ? Path.of(environment.getOrDefault("HOME", "."), ".config") : Path.of(config);
        return base.resolve("jandrel").resolve("sign-in");
    }

    SignIn signIn() {
        String url = variable("JANDREL_URL");
        String token = variable("JANDREL_TOKEN");
        if (!url.isEmpty() && !token.isEmpty()) {
            return new SignIn(url, token);
        }
        try {
            List<String> lines = Files.readAllLines(file());
            if (lines.size() >= 2) {
                return new SignIn(url.isEmpty() ? lines.get(0) : url, token.isEmpty() ? lines.get(1) : token);
            }
        } catch (IOException none) {
            // said below
        }
        throw new Trouble(
                Trouble.REACH,
                "you are not signed in: run “jandrel sign-in --url http://HOST:PORT”, or set JANDREL_URL and JANDREL_TOKEN");
    }

    /** What the service knows this machine by, so that guesses from elsewhere do not shut it out; empty for nothing. */
    String device(String url) {
        try {
            List<String> lines = Files.readAllLines(file().resolveSibling("device"));
            return lines.size() >= 2 && lines.get(0).equals(url) ? lines.get(1) : "";
        } catch (IOException none) {
            return "";
        }
    }

    void keepDevice(String url, String device) {
        keep(file().resolveSibling("device"), url + "\n" + device + "\n");
    }

    Path keep(SignIn signIn) {
        return keep(file(), signIn.url() + "\n" + signIn.token() + "\n");
    }

    private static Path keep(Path file, String lines) {
        try {
            Files.createDirectories(file.getParent());
            Path fresh = Files.createTempFile(
                    file.getParent(),
                    "sign-in",
                    "",
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(fresh, lines);
            Files.move(fresh, file, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
            return file;
        } catch (IOException refused) {
            throw new Trouble(
                    Trouble.REACH,
                    "the sign-in cannot be kept in " + file + "; check that the folder can be written to");
        }
    }

    void forget() {
        try {
            Files.deleteIfExists(file());
        } catch (IOException refused) {
            throw new Trouble(Trouble.REACH, "the file " + file() + " cannot be removed");
        }
    }
}
