package jandrel.sources;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.Provider;
import java.security.Security;
import java.util.Arrays;
import java.util.Map;
import javax.security.auth.callback.Callback;
import javax.security.auth.callback.CallbackHandler;
import javax.security.auth.callback.NameCallback;
import javax.security.auth.callback.PasswordCallback;
import javax.security.auth.callback.UnsupportedCallbackException;
import javax.security.sasl.SaslClient;
import javax.security.sasl.SaslClientFactory;
import javax.security.sasl.SaslException;
import org.jspecify.annotations.Nullable;

/** SASL OAUTHBEARER (RFC 7628): an access token in place of a password. Java brings none of its own. */
final class OAuthBearer implements SaslClient {
    static final String NAME = "OAUTHBEARER";
    private static final char SEPARATOR = 1;
    private final byte[] first;
    private boolean sent;

    private OAuthBearer(String user, String token, String host) {
        String message = "n,a=" + user + "," + SEPARATOR + "host=" + host + SEPARATOR + "auth=Bearer " + token
                + SEPARATOR + SEPARATOR;
        first = message.getBytes(StandardCharsets.UTF_8);
    }

    /** Makes it known to Java, once. */
    static synchronized void register() {
        if (Security.getProvider(Known.NAME) == null) {
            Security.addProvider(new Known());
        }
    }

    private static final class Known extends Provider {
        static final String NAME = "JandrelSasl";
        private static final long serialVersionUID = 1L;

        Known() {
            super(NAME, "1", "SASL OAUTHBEARER (RFC 7628)");
            put("SaslClientFactory." + OAuthBearer.NAME, Factory.class.getName());
        }
    }

    /** Found by the provider's entry; public only because Java makes it by reflection. */
    public static final class Factory implements SaslClientFactory {
        @Override
        public @Nullable SaslClient createSaslClient(
                String[] mechanisms,
                String authorization,
                String protocol,
                String host,
                Map<String, ?> settings,
                CallbackHandler handler)
                throws SaslException {
            if (!Arrays.asList(mechanisms).contains(NAME)) {
                return null;
            }
            NameCallback name = new NameCallback("user");
            PasswordCallback token = new PasswordCallback("token", false);
            try {
                handler.handle(new Callback[] {name, token});
            } catch (IOException | UnsupportedCallbackException refused) {
                throw new SaslException("no user and token were given", refused);
            }
            return new OAuthBearer(name.getName(), new String(token.getPassword()), host);
        }

        @Override
        public String[] getMechanismNames(Map<String, ?> settings) {
            return new String[] {NAME};
        }
    }

    @Override
    public String getMechanismName() {
        return NAME;
    }

    @Override
    public boolean hasInitialResponse() {
        return true;
    }

    /** RFC 7628 §3.2.3: to the server's error, one byte is answered, so that it can end with its refusal. */
    @Override
    public byte[] evaluateChallenge(byte[] challenge) {
        byte[] answer = sent ? new byte[] {SEPARATOR} : first;
        sent = true;
        return answer;
    }

    @Override
    public boolean isComplete() {
        return sent;
    }

    @Override
    public byte[] unwrap(byte[] incoming, int offset, int length) {
        throw new IllegalStateException("it protects nothing: TLS does");
    }

    @Override
    public byte[] wrap(byte[] outgoing, int offset, int length) {
        throw new IllegalStateException("it protects nothing: TLS does");
    }

    @Override
    public @Nullable Object getNegotiatedProperty(String name) {
        return null;
    }

    @Override
    public void dispose() {
        Arrays.fill(first, (byte) 0);
    }
}
