package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jakarta.mail.Message;
import jakarta.mail.MessagingException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jandrel.demo.Stand;
import java.io.BufferedReader;
import java.io.IOException;
import java.net.URI;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Mail servers and authorisation servers that stall, drip, cut off or never end: nobody waits for them for long. */
@Timeout(30)
class HangingSendersTest {
    private static final Trust TRUST = Trust.with(Stand.fromEnvironment().dir().resolve("tls/ca.pem"));
    private static final Patience SHORT =
            new Patience(Duration.ofSeconds(2), Duration.ofSeconds(1), Duration.ofSeconds(3));
    /** For servers that say at once what is looked at: a slow handshake is not to be taken for silence. */
    private static final Patience ROOMY = Patience.of(Duration.ofSeconds(6));

    private OddServer server;

    @AfterEach
    void end() throws IOException {
        server.close();
    }

    private static Duration took(ThrowingCallable call, Class<? extends Throwable> failure) {
        long began = System.nanoTime();
        assertThatThrownBy(call).isInstanceOf(failure);
        return Duration.ofNanos(System.nanoTime() - began);
    }

    private void send() throws MessagingException {
        SmtpSender.Server where = new SmtpSender.Server("127.0.0.1", server.port(), false, "", "");
        new SmtpSender(where, TRUST, Duration.ofSeconds(2)).send("", session -> {
            MimeMessage message = new MimeMessage(session);
            message.setFrom(new InternetAddress("jandrel@corvane.example"));
            message.setRecipient(Message.RecipientType.TO, new InternetAddress("ann@corvane.example"));
            message.setText("x");
            return message;
        });
    }

    /** Answers as a mail server does, up to a command at which it does what it is told to. */
    private static void upTo(String command, BufferedReader in, OddServer.Out out, OddServer.Script then)
            throws Exception {
        if (command.equals("greeting")) {
            then.play(in, out);
            return;
        }
        out.say("220 odd ESMTP\r\n");
        boolean text = false;
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            if (text && !line.equals(".")) {
                continue;
            }
            if (line.startsWith(command) || text && command.equals("end")) {
                then.play(in, out);
                return;
            }
            text = line.equals("DATA");
            out.say(text ? "354 go on\r\n" : "250 odd\r\n");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"greeting", "EHLO", "MAIL", "RCPT", "DATA", "end"})
    void aMailServerThatStalls(String command) throws Exception {
        server = new OddServer(false, (in, out) -> upTo(command, in, out, (i, o) -> server.over.await()));
        assertThat(took(this::send, MessagingException.class)).isLessThan(Duration.ofSeconds(8));
    }

    @ParameterizedTest
    @ValueSource(strings = {"greeting", "EHLO", "end"})
    void aMailServerThatDrips(String command) throws Exception {
        server = new OddServer(
                false,
                (in, out) -> upTo(command, in, out, (i, o) -> {
                    for (int n = 0; n < 100; n++) {
                        o.say("2");
                        Thread.sleep(300);
                    }
                }));
        assertThat(took(this::send, MessagingException.class)).isLessThan(Duration.ofSeconds(8));
    }

    @ParameterizedTest
    @ValueSource(strings = {"greeting", "MAIL", "end"})
    void aMailServerThatCutsOff(String command) throws Exception {
        server = new OddServer(false, (in, out) -> upTo(command, in, out, (i, o) -> {}));
        assertThat(took(this::send, MessagingException.class)).isLessThan(Duration.ofSeconds(8));
    }

    @Test
    void aMailServerThatIsClosing() throws Exception {
        server = new OddServer(false, (in, out) -> upTo("MAIL", in, out, (i, o) -> o.say("421 closing\r\n")));
        assertThat(took(this::send, MessagingException.class)).isLessThan(Duration.ofSeconds(8));
    }

    private BoundedHttp.Answer ask() throws IOException {
        return ask(SHORT);
    }

    private BoundedHttp.Answer ask(Patience patience) throws IOException {
        URI uri = URI.create("https://127.0.0.1:" + server.port() + "/token");
        return new BoundedHttp(TRUST, patience).send("POST", uri, Map.of("Accept", List.of("application/json")), "a=b");
    }

    /** @param answer after the head of a request was read */
    private void answering(OddServer.Script answer) throws Exception {
        server = new OddServer(true, (in, out) -> {
            for (String line = in.readLine(); line != null && !line.isEmpty(); line = in.readLine()) {
                // nothing of it matters
            }
            answer.play(in, out);
        });
    }

    @Test
    void anAuthorisationServerThatAnswers() throws Exception {
        answering((in, out) -> out.say("HTTP/1.1 200 OK\r\nContent-Length: 2\r\nX-Kind: odd\r\n\r\n{}"));
        assertThat(ask(ROOMY).body()).isEqualTo("{}");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "HTTP/1.1 200 OK\r\n", "HTTP/1.1 200 OK\r\nContent-Length: 9\r\n\r\n{"})
    void anAuthorisationServerThatStalls(String said) throws Exception {
        answering((in, out) -> {
            out.say(said);
            server.over.await();
        });
        assertThat(took(this::ask, IOException.class)).isLessThan(Duration.ofSeconds(8));
    }

    @Test
    void anAuthorisationServerThatDrips() throws Exception {
        answering((in, out) -> {
            out.say("HTTP/1.1 200 OK\r\nContent-Length: 900\r\n\r\n");
            for (int n = 0; n < 100; n++) {
                out.say("{");
                Thread.sleep(300);
            }
        });
        assertThat(took(this::ask, IOException.class)).isLessThan(Duration.ofSeconds(8));
    }

    @Test
    void anAuthorisationServerWhoseAnswerDoesNotEnd() throws Exception {
        answering((in, out) -> {
            out.say("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n");
            String chunk = "10000\r\n" + "x".repeat(65_536) + "\r\n";
            while (true) {
                out.say(chunk);
            }
        });
        assertThatThrownBy(() -> ask(ROOMY)).isInstanceOf(IOException.class).hasMessageContaining("too long");
    }

    @Test
    void anAuthorisationServerThatSendsElsewhereIsNotFollowed() throws Exception {
        answering((in, out) ->
                out.say("HTTP/1.1 307 Elsewhere\r\nLocation: https://127.0.0.1:1/\r\nContent-Length: 0\r\n\r\n"));
        assertThat(ask(ROOMY).status()).isEqualTo(307);
    }

    @Test
    void anAuthorisationServerWithoutTls() throws Exception {
        server = new OddServer(false, (in, out) -> out.say("HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\n{}"));
        assertThat(took(this::ask, IOException.class)).isLessThan(Duration.ofSeconds(8));
    }
}
