package jandrel.standin;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.security.cert.CertificateFactory;
import java.util.Base64;
import java.util.Locale;
import java.util.Set;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.web.servlet.ServletRegistrationBean;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.security.oauth2.server.authorization.OAuth2Authorization;
import org.springframework.security.oauth2.server.authorization.OAuth2TokenType;
import org.springframework.security.web.firewall.HttpFirewall;
import org.springframework.security.web.firewall.StrictHttpFirewall;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lets in to the calendar server whoever brings a token (RFC 6750), as the person it was given for. */
@Configuration(proxyBeanMethods = false)
class CalendarFront {
    private static final Set<String> PASSED = Set.of("depth", "content-type", "if-match", "if-none-match");

    @Bean
    ServletRegistrationBean<Front> front(
            Grants grants,
            @Value("${STANDIN_CALDAV:}") String calendars,
            @Value("${STANDIN_CA}") String authority,
            @Value("${STANDIN_PASSWORD}") String password) {
        return new ServletRegistrationBean<>(new Front(grants, calendars, Path.of(authority), password), "/dav/*");
    }

    /** Calendars are asked by methods of their own (RFC 4791: PROPFIND, REPORT), which the firewall would not know. */
    @Bean
    HttpFirewall everyMethod() {
        StrictHttpFirewall firewall = new StrictHttpFirewall();
        firewall.setUnsafeAllowAnyHttpMethod(true);
        return firewall;
    }

    /** What a provider does when a password is reset. */
    @RestController
    static class Resets {
        private final Grants grants;

        private final SigningKeys keys;
        private final Lies lies;

        Resets(Grants grants, SigningKeys keys, Lies lies) {
            this.grants = grants;
            this.keys = keys;
            this.lies = lies;
        }

        @PostMapping("/stand/rotate")
        void rotate() {
            keys.rotate();
        }

        /** What is said of whoever signs in from now on, and what is wrong with it. */
        @PostMapping("/stand/say")
        void say(
                @RequestParam(name = "lie", defaultValue = "") String lie,
                @RequestParam(name = "groups", defaultValue = "") String groups,
                @RequestParam(name = "email", defaultValue = "") String email) {
            lies.tell(lie);
            lies.groups(groups);
            lies.email(email);
        }

        @PostMapping("/stand/take-back")
        int takeBack(@RequestParam("person") String person) {
            return grants.takeBack(person);
        }
    }

    static final class Front extends HttpServlet {
        private static final long serialVersionUID = 1L;
        private final transient Grants grants;
        private final String calendars;
        private final transient Path authority;
        private final String password;
        private transient @Nullable HttpClient http;

        Front(Grants grants, String calendars, Path authority, String password) {
            this.grants = grants;
            this.calendars = calendars;
            this.authority = authority;
            this.password = password;
        }

        @Override
        protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
            String header = String.valueOf(request.getHeader("Authorization"));
            OAuth2Authorization granted = header.startsWith("Bearer ")
                    ? grants.findByToken(header.substring(7), OAuth2TokenType.ACCESS_TOKEN)
                    : null;
            if (granted == null
                    || granted.getAccessToken() == null
                    || !granted.getAccessToken().isActive()) {
                response.setHeader("WWW-Authenticate", "Bearer");
                response.setStatus(401);
                return;
            }
            try {
                pass(request, response, granted.getPrincipalName());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                response.setStatus(503);
            } catch (GeneralSecurityException broken) {
                response.setStatus(502);
            }
        }

        private void pass(HttpServletRequest request, HttpServletResponse response, String person)
                throws IOException, InterruptedException, GeneralSecurityException {
            String path = request.getPathInfo() == null ? "/" : request.getPathInfo();
            String basic =
                    Base64.getEncoder().encodeToString((person + ":" + password).getBytes(StandardCharsets.UTF_8));
            HttpRequest.Builder to = HttpRequest.newBuilder(URI.create(calendars + path.replace(" ", "%20")))
                    .header("Authorization", "Basic " + basic)
                    .header("X-Script-Name", "/dav")
                    .method(
                            request.getMethod(),
                            HttpRequest.BodyPublishers.ofByteArray(
                                    request.getInputStream().readAllBytes()));
            request.getHeaderNames().asIterator().forEachRemaining(name -> {
                if (PASSED.contains(name.toLowerCase(Locale.ROOT))) {
                    to.header(name, request.getHeader(name));
                }
            });
            HttpResponse<byte[]> answer = client().send(to.build(), HttpResponse.BodyHandlers.ofByteArray());
            response.setStatus(answer.statusCode());
            answer.headers().firstValue("content-type").ifPresent(response::setContentType);
            answer.headers().firstValue("etag").ifPresent(tag -> response.setHeader("ETag", tag));
            response.getOutputStream().write(answer.body());
        }

        private synchronized HttpClient client() throws IOException, GeneralSecurityException {
            if (http == null) {
                KeyStore store = KeyStore.getInstance(KeyStore.getDefaultType());
                store.load(null, null);
                try (InputStream in = Files.newInputStream(authority)) {
                    store.setCertificateEntry(
                            "stand", CertificateFactory.getInstance("X.509").generateCertificate(in));
                }
                TrustManagerFactory trust = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
                trust.init(store);
                SSLContext context = SSLContext.getInstance("TLS");
                context.init(null, trust.getTrustManagers(), null);
                http = HttpClient.newBuilder()
                        .sslContext(context)
                        .version(HttpClient.Version.HTTP_1_1)
                        .build();
            }
            return http;
        }
    }
}
