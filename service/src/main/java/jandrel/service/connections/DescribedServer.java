package jandrel.service.connections;

import jandrel.api.ConnectionApi.NewServer;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Vault;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections.Server;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** What somebody says of a server, checked; its secret is encrypted on the way. */
@Component
class DescribedServer {
    private static final Set<String> KINDS = Set.of("imap", "caldav", "carddav");
    private static final Set<String> SIGN_INS =
            Set.of("password", "oauth", "organisation-password", "organisation-key");
    private final EgressPolicy reach;
    private final Vault vault;

    DescribedServer(EgressPolicy reach, Vault vault) {
        this.reach = reach;
        this.vault = vault;
    }

    /** @throws Refusal where its host leads into the company's own network, and nobody allowed that */
    void mayBeReached(String host) {
        try {
            reach.inward().check(host);
        } catch (SourceTrouble refused) {
            if (refused.kind() == SourceTrouble.Kind.REFUSED) {
                throw Refusal.of(
                        HttpStatus.FORBIDDEN,
                        "This host leads into the company’s own network",
                        "If that is meant, allow the host first (jandrel allow-host HOST), then try again.");
            }
        }
    }

    /** One that is new. */
    Server of(NewServer wanted) {
        return of(UUID.randomUUID(), wanted, null);
    }

    /**
     * @param kept the secret that stays where none is given
     * @throws Refusal for the first thing that does not fit
     */
    Server of(UUID id, NewServer wanted, byte @Nullable [] kept) {
        if (!KINDS.contains(wanted.kind())) {
            throw Refusal.bad(
                    "There is no kind of server “" + wanted.kind() + "”", "Kinds are imap, caldav and carddav.");
        }
        if (wanted.name().isBlank() || !wanted.host().matches("[A-Za-z0-9.:_-]{1,253}")) {
            throw Refusal.bad(
                    "The server needs a name and a host", "A host is a name or an IP address, without a scheme.");
        }
        if (wanted.port() < 1 || wanted.port() > 65_535) {
            throw Refusal.bad("The port is out of range", "It goes from 1 to 65535; IMAP over TLS is mostly 993.");
        }
        if (!text(wanted.path(), "/").matches("/(?!/)[^\\s\\\\]{0,500}")) {
            throw Refusal.bad("The path is not valid", "It starts with a single / and cannot name another server.");
        }
        String signIn = text(wanted.signIn(), "password");
        if (!SIGN_INS.contains(signIn)) {
            throw Refusal.bad(
                    "There is no way to sign in “" + signIn + "”",
                    "It is password, oauth, organisation-password or organisation-key.");
        }
        boolean token = signIn.equals("oauth") || signIn.equals("organisation-key");
        if (token
                && (text(wanted.issuer(), "").isEmpty()
                        || text(wanted.clientId(), "").isEmpty())) {
            throw Refusal.bad("The authorisation server is missing", "Give its issuer and the client id.");
        }
        if (token && !text(wanted.issuer(), "").startsWith("https://")) {
            throw Refusal.bad("The issuer is no https address", "Tokens go over TLS alone.");
        }
        if (signIn.startsWith("organisation-")
                && kept == null
                && text(wanted.secret(), "").isEmpty()) {
            throw Refusal.bad("The organisation’s secret is missing", "Give its password, or its key in PEM form.");
        }
        if (signIn.equals("organisation-password")
                && text(wanted.grantLogin(), "").isEmpty()) {
            throw Refusal.bad("The organisation’s sign-in is missing", "Give the login of the master account.");
        }
        String authority = text(wanted.authority(), "");
        try {
            reach.trust().andIfAny(authority);
        } catch (IllegalArgumentException unreadable) {
            throw Refusal.bad("The authority is no certificate", "Paste it in PEM form, BEGIN and END lines and all.");
        }
        // nobody’s secret is kept that opens nothing
        String secret = signIn.equals("password") ? "" : text(wanted.secret(), "");
        return new Server(
                id,
                wanted.name().strip(),
                wanted.kind(),
                wanted.host(),
                wanted.port(),
                text(wanted.path(), "/"),
                signIn,
                text(wanted.grantLogin(), ""),
                secret.isEmpty() ? kept : vault.lock(id, secret),
                text(wanted.issuer(), ""),
                text(wanted.clientId(), ""),
                text(wanted.scopes(), ""),
                authority);
    }

    static String text(@Nullable String text, String otherwise) {
        return text == null || text.isBlank() ? otherwise : text.strip();
    }
}
