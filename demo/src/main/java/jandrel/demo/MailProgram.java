package jandrel.demo;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.SSLSocket;

/** What a person does in their mail program: moves, marks, renames and deletes. Speaks IMAP (RFC 3501) line by line. */
public final class MailProgram implements AutoCloseable {
    private final SSLSocket socket;
    private final BufferedReader in;
    private final OutputStream out;
    private int number;

    private MailProgram(SSLSocket socket) throws IOException {
        this.socket = socket;
        this.in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
        this.out = socket.getOutputStream();
    }

    public static MailProgram open(Stand stand, String address) throws IOException {
        try {
            String[] where = stand.value("IMAPS").split(":", 0);
            SSLSocket socket =
                    (SSLSocket) stand.tls().getSocketFactory().createSocket(where[0], Integer.parseInt(where[1]));
            socket.setTcpNoDelay(true);
            socket.setSoTimeout(60_000);
            MailProgram program = new MailProgram(socket);
            program.in.readLine();
            program.does("LOGIN " + address + " " + Providers.PASSWORD);
            return program;
        } catch (GeneralSecurityException broken) {
            throw new IOException("the stand's certificate cannot be read", broken);
        }
    }

    /** @return what the server says before it says that it is done */
    public List<String> does(String command) throws IOException {
        String tag = "m" + ++number;
        write(tag + " " + command);
        List<String> said = new ArrayList<>();
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            if (line.startsWith(tag + " OK")) {
                return said;
            }
            if (line.startsWith(tag + " ")) {
                throw new IOException("the mail server answered " + line);
            }
            said.add(line);
        }
        throw new IOException("the mail server closed the connection");
    }

    /** Says that it listens (RFC 2177); what comes is then read by {@link #next()}. */
    public void listen() throws IOException {
        write("m" + ++number + " IDLE");
        in.readLine();
    }

    /** The next line, when it comes. */
    public String next() throws IOException {
        String line = in.readLine();
        if (line == null) {
            throw new IOException("the mail server closed the connection");
        }
        return line;
    }

    private void write(String line) throws IOException {
        out.write((line + "\r\n").getBytes(StandardCharsets.UTF_8));
        out.flush();
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
