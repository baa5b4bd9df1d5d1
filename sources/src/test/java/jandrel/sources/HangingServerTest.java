package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jandrel.demo.Stand;
import java.io.BufferedReader;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Servers that stall, drip, cut off or are ill: every call ends soon, and says which of these it was. */
@Timeout(30)
class HangingServerTest {
    private static final Trust TRUST = Trust.with(Stand.fromEnvironment().dir().resolve("tls/ca.pem"));
    private static final Patience SHORT =
            new Patience(Duration.ofSeconds(2), Duration.ofSeconds(1), Duration.ofSeconds(3));
    /** For servers that say at once what is looked at: a slow handshake is not to be taken for silence. */
    private static final Patience ROOMY = Patience.of(Duration.ofSeconds(6));

    private static final String HEAD = "HTTP/1.1 207 Multi-Status\r\nContent-Type: application/xml\r\n";
    private OddServer server;

    @AfterEach
    void end() throws IOException {
        server.close();
    }

    private CalendarServer client(Patience patience) {
        return CalDavServer.open(
                new Endpoint("127.0.0.1", server.port(), "/"),
                new ServerAccount("ann", "buoy-and-tide"),
                TRUST,
                new Inward(List.of("127.0.0.1")),
                patience);
    }

    /** @param answer what it says to a request, whose head has been read */
    private CalendarServer answering(OddServer.Script answer) throws Exception {
        server = new OddServer(true, (in, out) -> {
            head(in);
            answer.play(in, out);
        });
        return client(SHORT);
    }

    private CalendarServer answeringAtOnce(OddServer.Script answer) throws Exception {
        answering(answer);
        return client(ROOMY);
    }

    private CalendarServer withoutTls(OddServer.Script script) throws Exception {
        server = new OddServer(false, script);
        return client(ROOMY);
    }

    private static void head(BufferedReader in) throws IOException {
        for (String line = in.readLine(); line != null && !line.isEmpty(); line = in.readLine()) {
            // nothing of it matters
        }
    }

    private static SourceTrouble trouble(CalendarServer server) {
        long began = System.nanoTime();
        SourceTrouble trouble = catchThrowableOfType(SourceTrouble.class, server::calendars);
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(8));
        return trouble;
    }

    @Test
    void nothingAtAllIsWaitedForNoLongerThanAHeadMayTake() throws Exception {
        SourceTrouble trouble = trouble(answering((in, out) -> server.over.await()));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        assertThat(trouble).hasMessage("the calendar server did not answer in time");
    }

    @ParameterizedTest
    @CsvSource({"Content-Length: 5000, ''", "Transfer-Encoding: chunked, 'f\r\n<d:multistatus '"})
    void aBodyThatStallsIsGivenUp(String length, String begin) throws Exception {
        SourceTrouble trouble = trouble(answering((in, out) -> {
            out.say(HEAD + length + "\r\n\r\n" + begin);
            server.over.await();
        }));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        assertThat(trouble).hasMessage("the calendar server did not answer in time");
    }

    @Test
    void aBodyThatDripsIsGivenUpWhenAllOfItTakesTooLong() throws Exception {
        SourceTrouble trouble = trouble(answering((in, out) -> {
            out.say(HEAD + "Content-Length: 100000\r\n\r\n<d:multistatus xmlns:d='DAV:'>");
            while (!server.over.await(100, TimeUnit.MILLISECONDS)) {
                out.say(" ");
            }
        }));
        assertThat(trouble).hasMessage("the calendar server did not answer in time");
    }

    @Test
    void whoIsToStopWaitsForNoAnswer() throws Exception {
        Duration minute = Duration.ofMinutes(1);
        answering((in, out) -> {
            out.say(HEAD + "Content-Length: 5000\r\n\r\n");
            server.over.await();
        });
        CalendarServer patient = client(new Patience(minute, minute, minute));
        AtomicReference<Throwable> ended = new AtomicReference<>();
        Thread asking = new Thread(() -> ended.set(catchThrowableOfType(SourceTrouble.class, patient::calendars)));
        asking.start();
        while (server.connections.get() == 0) {
            Thread.sleep(20);
        }
        Thread.sleep(300);
        asking.interrupt();
        asking.join(3_000);
        assertThat(asking.isAlive()).isFalse();
        assertThat(ended.get()).isInstanceOf(SourceTrouble.class);
    }

    @Test
    void aBodyThatIsCutOffIsNotTakenForWhole() throws Exception {
        SourceTrouble trouble = trouble(answeringAtOnce(
                (in, out) -> out.say(HEAD + "Content-Length: 5000\r\n\r\n<d:multistatus xmlns:d='DAV:'><d:response>")));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        assertThat(trouble.getMessage()).contains("closed the connection");
    }

    @Test
    void whatIsNoXmlIsCalledBroken() throws Exception {
        SourceTrouble trouble =
                trouble(answeringAtOnce((in, out) -> out.say(HEAD + "Content-Length: 6\r\n\r\n<a></b")));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.BROKEN);
    }

    @Test
    void aConnectionThatTheServerClosedIsTriedAgainForAWriteToo() throws Exception {
        CalendarServer client = answeringAtOnce((in, out) -> {
            if (server.connections.get() > 1) {
                out.say("HTTP/1.1 201 Created\r\nContent-Length: 0\r\n\r\n");
            }
        });
        assertThat(client.put("/home/x.ics", new byte[0], null)).isTrue();
        assertThat(server.connections).hasValue(2);
    }

    @Test
    void whatClosesDuringTheHandshakeIsNotCalledUntrusted() throws Exception {
        SourceTrouble trouble = trouble(withoutTls((in, out) -> in.read()));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        assertThat(trouble.getMessage()).contains("during the TLS handshake");
    }

    @Test
    void whatDoesNotSpeakTlsIsToldApart() throws Exception {
        SourceTrouble trouble = trouble(withoutTls((in, out) -> {
            out.say("220 mail.example ready\r\n");
            server.over.await();
        }));
        assertThat(trouble.getMessage()).contains("does not speak TLS");
    }

    @Test
    void whereNothingListensIsSaidToRefuse() throws Exception {
        CalendarServer client = answeringAtOnce((in, out) -> {});
        server.close();
        assertThat(trouble(client).getMessage()).contains("refuses connections");
    }

    @ParameterizedTest
    @CsvSource({"500, ,", "503, 7, PT7S", "429, 120, PT2M", "503, Sun 06 Nov, "})
    void aServerInTroubleIsAskedAgainWhenItSays(int status, String retryAfter, Duration wait) throws Exception {
        SourceTrouble trouble =
                trouble(answeringAtOnce((in, out) -> out.say("HTTP/1.1 " + status + " No\r\nContent-Length: 0\r\n"
                        + (retryAfter == null ? "" : "Retry-After: " + retryAfter + "\r\n") + "\r\n")));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        assertThat(trouble.getMessage()).contains(String.valueOf(status));
        assertThat(trouble.retryAfter().orElse(null)).isEqualTo(wait);
    }

    private Mailbox mailbox(Patience patience, OddServer.Script afterSignIn) throws Exception {
        server = new OddServer(true, (in, out) -> {
            out.say("* OK [CAPABILITY IMAP4rev1] ready\r\n");
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String tag = line.substring(0, Math.max(0, line.indexOf(' ')));
                if (line.contains("LOGIN")) {
                    out.say(tag + " OK signed in\r\n");
                } else if (line.contains("CAPABILITY")) {
                    out.say("* CAPABILITY IMAP4rev1\r\n" + tag + " OK done\r\n");
                } else if (line.contains("LIST")) {
                    afterSignIn.play(in, out);
                } else {
                    out.say(tag + " OK done\r\n");
                }
            }
        });
        return imap(patience);
    }

    private Mailbox imap(Patience patience) {
        return ImapMailbox.open(
                new Endpoint("127.0.0.1", server.port(), ""),
                new ServerAccount("ann", "buoy-and-tide"),
                TRUST,
                patience);
    }

    private static SourceTrouble mailTrouble(ThrowingCallable call) {
        long began = System.nanoTime();
        SourceTrouble trouble = catchThrowableOfType(SourceTrouble.class, call);
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(8));
        assertThat(trouble.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE);
        return trouble;
    }

    @Test
    void aMailServerThatDoesNotGreetIsGivenUp() throws Exception {
        server = new OddServer(true, (in, out) -> server.over.await());
        assertThat(mailTrouble(() -> imap(SHORT))).hasMessage("the mail server did not answer in time");
    }

    @Test
    void aListThatDripsIsGivenUp() throws Exception {
        Mailbox mailbox = mailbox(SHORT, (in, out) -> {
            while (!server.over.await(100, TimeUnit.MILLISECONDS)) {
                out.say("* LIST () \"/\" \"folder\"\r\n");
            }
        });
        assertThat(mailTrouble(mailbox::folders)).hasMessage("the mail server did not answer in time");
    }

    @Test
    void aMailServerThatHangsUpIsNotCalledBroken() throws Exception {
        Mailbox mailbox = mailbox(ROOMY, (in, out) -> {
            out.say("* LIST () \"/\" \"fol");
            throw new IOException("hang up");
        });
        assertThat(mailTrouble(mailbox::folders).getMessage()).contains("closed the connection");
    }

    @Test
    void aMailServerThatCannotCheckSignInsIsNotTakenToRefuseThem() throws Exception {
        server = new OddServer(true, (in, out) -> {
            out.say("* OK [CAPABILITY IMAP4rev1] ready\r\n");
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String tag = line.substring(0, line.indexOf(' '));
                out.say(
                        line.contains("LOGIN")
                                ? tag + " NO [UNAVAILABLE] Temporary authentication failure.\r\n"
                                : "* CAPABILITY IMAP4rev1\r\n" + tag + " OK done\r\n");
            }
        });
        assertThat(mailTrouble(() -> imap(ROOMY)).getMessage()).contains("cannot check sign-ins");
    }
}
