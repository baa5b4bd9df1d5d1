package jandrel.service.kernel;

import java.time.Duration;
import org.springframework.http.ResponseCookie;

/** The service's cookies: no script reads them, and where TLS is spoken they go over nothing else. */
public final class Cookies {
    private Cookies() {}

    /** @param life zero takes it back */
    public static ResponseCookie.ResponseCookieBuilder cookie(
            Settings settings, String name, String value, Duration life) {
        return ResponseCookie.from(name, value)
                .httpOnly(true)
                .secure(settings.secureCookies())
                .maxAge(life);
    }
}
