package jandrel.service.people;

import jandrel.core.visibility.Role;
import jandrel.service.kernel.PrivateFiles;
import jandrel.service.kernel.Settings;
import jandrel.store.people.SignIns;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;

/** Makes the administrator's sign-in of a new installation. */
@Component
class FirstSignIn implements ApplicationRunner {
    private static final Logger LOG = LoggerFactory.getLogger(FirstSignIn.class);
    private final SignIns signIns;
    private final PasswordEncoder passwords;
    private final Settings settings;

    FirstSignIn(SignIns signIns, PasswordEncoder passwords, Settings settings) {
        this.signIns = signIns;
        this.passwords = passwords;
        this.settings = settings;
    }

    @Override
    public void run(ApplicationArguments arguments) throws IOException {
        if (signIns.count() > 0) {
            return;
        }
        String given = settings.administrator().password();
        String password = given.isEmpty() ? made() : given;
        String login = settings.administrator().login();
        signIns.add(new SignIns.SignIn(
                UUID.randomUUID(),
                login,
                "Administrator",
                String.valueOf(passwords.encode(password)),
                Role.ADMINISTRATOR.name(),
                null,
                0,
                null,
                ""));
        if (given.isEmpty()) {
            Path file = settings.keyFile().toAbsolutePath().resolveSibling("first-password");
            Files.deleteIfExists(file);
            PrivateFiles.write(file, password + "\n");
            LOG.info("the first sign-in is {}; its password stands in {}", login, file);
        }
    }

    private static String made() {
        byte[] random = new byte[15];
        new SecureRandom().nextBytes(random);
        return Base64.getUrlEncoder().encodeToString(random);
    }
}
