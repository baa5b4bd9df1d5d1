package jandrel.service.kernel;

import java.nio.file.Path;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What an installation sets.
 *
 * @param keyFile the keys that mailbox secrets are encrypted and item ids hashed with; made at the first start
 * @param trustedCertificates a PEM file of authorities of the company's own; empty for none
 * @param lookEvery how long a source is left alone between two looks
 * @param answersWithin how long a server may take to begin an answer, before it counts as unreachable
 * @param publicUrl where people's browsers find the console; consents come back there
 * @param proxies addresses and networks of the proxies whose word on who calls is believed
 * @param allowedHosts hosts inside the company's own network that may be reached, besides those an administrator allows
 * @param ownExclusions whether everybody may exclude for their own sources
 * @param country the company's own, by its two letters (ISO 3166-1): telephone numbers without a country's code are read as of it; may
 *     be empty
 * @param secureCookies whether the session cookie goes over TLS alone; on wherever a proxy speaks TLS for the service
 */
@ConfigurationProperties("jandrel")
public record Settings(
        Path keyFile,
        String trustedCertificates,
        Duration lookEvery,
        Duration answersWithin,
        boolean secureCookies,
        String publicUrl,
        java.util.List<String> proxies,
        java.util.List<String> allowedHosts,
        boolean ownExclusions,
        String country,
        Smtp smtp,
        HandOver handOver,
        SignIns signIns,
        Quotas quotas,
        Administrator administrator) {

    /** Whether people come by TLS: then cookies go over nothing else. */
    public boolean isSecure() {
        return secureCookies || isHttps();
    }

    /** Whether people find the console by https alone. */
    public boolean isHttps() {
        return publicUrl.startsWith("https://");
    }

    /**
     * How many attempts to sign in a minute are let through that do not succeed, and what trying a password costs.
     *
     * @param fromOneAddress from one address; a proxy that is not among {@link Settings#proxies} is one
     * @param inAll from everywhere
     * @param passwordMemory MiB that hashing one password takes (argon2id)
     */
    public record SignIns(int fromOneAddress, int inAll, int passwordMemory) {
        private static final int LEAST = 1;
        private static final int MOST = 256;

        public SignIns {
            if (passwordMemory < LEAST || passwordMemory > MOST) {
                throw new IllegalArgumentException("jandrel.sign-ins.password-memory is " + passwordMemory
                        + "; it goes from 1 to 256, and 19 is usual");
            }
        }
    }

    /**
     * How many letters may go out in a day (UTC).
     *
     * @param guestLetters to guests of one person's meetings; what is over waits for the next day
     * @param signInLetters to one person, of invitations and ways to set a new password
     */
    public record Quotas(int guestLetters, int signInLetters) {}

    /**
     * How notices go out; with an empty host none do.
     *
     * @param administrator who gets a copy of each
     */
    public record Smtp(
            String host, int port, boolean tls, String user, String password, String from, String administrator) {
        @Override
        public String toString() {
            return "Smtp[" + host + "]";
        }
    }

    /**
     * Where the company's mail server hands over what people send to the service's own address.
     *
     * @param port 0 for nowhere
     * @param recipient the service's own address
     * @param certificate a PEM file; with it and its key TLS is required
     * @param from addresses of machines that may hand over, besides this one
     * @param believed names of the company's mail servers (authserv-id, RFC 8601) whose word on who sent a message is believed
     * @param largest bytes of one message
     * @param perHour messages of one person
     */
    public record HandOver(
            String address,
            int port,
            String recipient,
            String certificate,
            String key,
            java.util.List<String> from,
            java.util.List<String> believed,
            int largest,
            int perHour) {}

    /** The first sign-in of an installation. With an empty password, one is made and written beside the key file. */
    public record Administrator(String login, String password) {
        @Override
        public String toString() {
            return "Administrator[" + login + "]";
        }
    }
}
