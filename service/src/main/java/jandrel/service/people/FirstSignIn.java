package jandrel.service.people;

import jandrel.core.visibility.Role;
import jandrel.service.kernel.PrivateFiles;
import jandrel.service.kernel.Settings;
import jandrel.store.people.SignIns;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.time.Clock;
import java.util.Base64;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;

/** Makes the administrator's sign-in of a new installation. */
@Component
class FirstSignIn implements ApplicationRunner {
    private static final Logger LOG = LoggerFactory.getLogger(FirstSignIn.class);
    private final SignIns signIns;
    private final Passwords passwords;
    private final Settings settings;
    private final Clock clock;

    FirstSignIn(SignIns signIns, Passwords passwords, Settings settings, Clock clock) {
        this.clock = clock;
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
        signIns.add(SignIns.SignIn.fresh(login, "Administrator", Role.ADMINISTRATOR.name(), null, clock.instant())
                .withPassword(passwords.hash(password), false));
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
