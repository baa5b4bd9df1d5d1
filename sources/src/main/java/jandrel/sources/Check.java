package jandrel.sources;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.security.cert.CertificateException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLSocket;
import org.jspecify.annotations.Nullable;

/** Tries a server step by step, and says of the first step that fails what to do. */
public final class Check {
    private static final int PATIENCE_MILLIS = 8_000;
    private final List<Step> steps = new ArrayList<>();

    /** @param name {@code name}, {@code address}, {@code connection}, {@code sign-in} or {@code sources} */
    public record Step(String name, boolean passed, String says) {}

    private Check() {}

    /** @param account null to stop before signing in */
    public static List<Step> of(
            String kind, Endpoint endpoint, @Nullable ServerAccount account, Trust trust, Inward inward) {
        Check check = new Check();
        if (check.name(endpoint) && check.address(endpoint, inward) && check.tls(endpoint, trust) && account != null) {
            check.sources(kind, endpoint, account, trust, inward);
        }
        return check.steps;
    }

    private boolean passed(String name, String says) {
        steps.add(new Step(name, true, says));
        return true;
    }

    private boolean failed(String name, String says) {
        steps.add(new Step(name, false, says));
        return false;
    }

    private boolean name(Endpoint endpoint) {
        try {
            String found = Arrays.stream(Inward.addresses(endpoint.host()))
                    .map(InetAddress::getHostAddress)
                    .collect(Collectors.joining(", "));
            return passed("name", endpoint.host() + " is " + found);
        } catch (SourceTrouble none) {
            return failed("name", String.valueOf(none.getMessage()));
        }
    }

    private boolean address(Endpoint endpoint, Inward inward) {
        try {
            inward.check(endpoint.host());
            return passed("address", "it may be reached from here");
        } catch (SourceTrouble refused) {
            return failed("address", String.valueOf(refused.getMessage()));
        }
    }

    private boolean tls(Endpoint endpoint, Trust trust) {
        try (Socket plain = new Socket()) {
            plain.connect(new InetSocketAddress(endpoint.host(), endpoint.port()), PATIENCE_MILLIS);
            plain.setSoTimeout(PATIENCE_MILLIS);
            try (SSLSocket tls = (SSLSocket)
                    trust.context().getSocketFactory().createSocket(plain, endpoint.host(), endpoint.port(), true)) {
                SSLParameters parameters = tls.getSSLParameters();
                parameters.setEndpointIdentificationAlgorithm("HTTPS");
                tls.setSSLParameters(parameters);
                tls.startHandshake();
                return passed(
                        "connection",
                        "port " + endpoint.port() + " answers with "
                                + tls.getSession().getProtocol() + ", and its certificate is trusted");
            }
        } catch (SSLException refused) {
            return failed("connection", tlsTrouble(refused));
        } catch (IOException none) {
            return failed(
                    "connection",
                    "nothing answers at port " + endpoint.port() + "; check the port, and that no firewall is between");
        }
    }

    private static String tlsTrouble(SSLException refused) {
        for (Throwable t = refused; t != null; t = t.getCause()) {
            if (t instanceof CertificateException) {
                return "its certificate is not trusted for this name; add the company’s own authority, or correct the host";
            }
        }
        return "it does not speak TLS at this port; IMAP over TLS is mostly 993, HTTPS 443";
    }

    private void sources(String kind, Endpoint endpoint, ServerAccount account, Trust trust, Inward inward) {
        boolean signedIn = false;
        try {
            List<String> found;
            if (kind.equals("imap")) {
                try (Mailbox mailbox = ImapMailbox.open(endpoint, account, trust)) {
                    signedIn = passed("sign-in", "the server takes it");
                    passed("abilities", mailbox.abilities());
                    found = mailbox.folders().stream()
                            .map(Mailbox.Folder::label)
                            .toList();
                }
            } else if (kind.equals("carddav")) {
                try (AddressBookServer books = CardDavServer.open(endpoint, account, trust, inward, Patience.USUAL)) {
                    found = books.books().stream()
                            .map(AddressBookServer.AddressBook::name)
                            .toList();
                    signedIn = passed("sign-in", "the server takes it");
                }
            } else {
                try (CalendarServer calendars = CalDavServer.open(endpoint, account, trust, inward)) {
                    found = calendars.calendars().stream()
                            .map(CalendarServer.Calendar::name)
                            .toList();
                    signedIn = passed("sign-in", "the server takes it");
                }
            }
            passed("sources", found.isEmpty() ? "it holds none yet" : "found " + String.join(", ", found));
        } catch (SourceTrouble trouble) {
            failed(signedIn ? "sources" : "sign-in", String.valueOf(trouble.getMessage()));
        }
    }
}
