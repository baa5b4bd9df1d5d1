package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.MailProgram;
import jandrel.demo.Providers;
import jandrel.demo.Stand;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Against Dovecot. */
class LiveMailTest {
    private static final Stand STAND = Stand.fromEnvironment();
    private static final Providers PROVIDERS = new Providers(STAND);
    private static final String WHO = "listener@corvane.example";
    private static final Trust TRUST = Trust.with(Path.of(STAND.value("CA")));
    private static final LiveMail LIVE = new LiveMail();

    private static final class Heard implements MailboxListener {
        final BlockingQueue<String> all = new LinkedBlockingQueue<>();

        @Override
        public void listening() {
            all.add("listening");
        }

        @Override
        public void news() {
            all.add("news");
        }

        @Override
        public void lost(SourceTrouble why) {
            all.add("lost " + why.kind());
        }

        String next() throws InterruptedException {
            return String.valueOf(all.poll(10, TimeUnit.SECONDS));
        }
    }

    @BeforeAll
    static void user() throws IOException {
        PROVIDERS.addUser(WHO);
    }

    @AfterAll
    static void end() {
        LIVE.close();
    }

    private static LiveMail.Watch watch(ServerAccount account, int port, Trust trust, Heard heard) {
        return LIVE.watch(new Endpoint("127.0.0.1", port, ""), account, trust, List.of("INBOX", "Sent"), heard);
    }

    @Test
    void whatArrivesInEitherFolderIsHeardOf() throws Exception {
        Heard heard = new Heard();
        LiveMail.Watch watch = watch(new ServerAccount(WHO, Providers.PASSWORD), STAND.port("IMAPS"), TRUST, heard);
        assertThat(heard.next()).isEqualTo("listening");
        PROVIDERS.mail(WHO, "", Instant.now(), "From: a@x.example\r\n\r\nx\r\n");
        assertThat(heard.next()).isEqualTo("news");
        heard.all.clear();
        try (MailProgram program = MailProgram.open(STAND, WHO)) {
            program.does("SELECT INBOX");
            program.does("COPY 1 Sent");
            assertThat(heard.next()).isEqualTo("news");
        }
        watch.close();
        Thread.sleep(200);
        heard.all.clear();
        PROVIDERS.mail(WHO, "", Instant.now(), "From: b@x.example\r\n\r\nx\r\n");
        assertThat(heard.all.poll(1, TimeUnit.SECONDS)).isNull();
    }

    @Test
    void aWrongPasswordAStrangeCertificateAndAClosedPortAreToldApart() throws Exception {
        Heard wrong = new Heard();
        watch(new ServerAccount(WHO, "wrong"), STAND.port("IMAPS"), TRUST, wrong);
        Heard strange = new Heard();
        watch(new ServerAccount(WHO, Providers.PASSWORD), STAND.port("IMAPS"), Trust.with(null), strange);
        Heard closed = new Heard();
        watch(new ServerAccount(WHO, Providers.PASSWORD), 9, TRUST, closed);
        assertThat(wrong.next()).isEqualTo("lost SIGN_IN");
        assertThat(strange.next()).isEqualTo("lost UNREACHABLE");
        assertThat(closed.next()).isEqualTo("lost UNREACHABLE");
        assertThat(wrong.all).isEmpty();
    }
}
