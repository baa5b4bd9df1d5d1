package jandrel.service;

import java.nio.file.Path;
import java.time.Duration;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * What an installation sets.
 *
 * @param keyFile the keys that mailbox secrets are encrypted and item ids hashed with; made at the first start
 * @param trustedCertificates a PEM file of authorities of the company's own; empty for none
 * @param lookEvery how long a source is left alone between two looks
 * @param secureCookies whether the session cookie goes over TLS alone; on wherever a proxy speaks TLS for the service
 */
@ConfigurationProperties("jandrel")
public record Settings(
        Path keyFile,
        String trustedCertificates,
        Duration lookEvery,
        boolean secureCookies,
        Administrator administrator) {

    /** The first sign-in of an installation. With an empty password, one is made and written beside the key file. */
    public record Administrator(String login, String password) {
        @Override
        public String toString() {
            return "Administrator[" + login + "]";
        }
    }
}
