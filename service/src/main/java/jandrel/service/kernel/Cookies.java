package jandrel.service.kernel;

import java.time.Duration;
import org.springframework.http.ResponseCookie;

/** The service's cookies: no script reads them, and where TLS is spoken they go over nothing else. */
public final class Cookies {
    /** Of a cookie that no other host can plant, and that is for the whole of this one (RFC 6265bis §4.1.3.2). */
    public static final String OF_HOST = "__Host-";

    private Cookies() {}

    /** @param life zero takes it back */
    public static ResponseCookie.ResponseCookieBuilder cookie(
            Settings settings, String name, String value, Duration life) {
        return ResponseCookie.from(settings.isSecure() ? OF_HOST + name : name, value)
                .httpOnly(true)
                .secure(settings.isSecure())
                .maxAge(life);
    }
}
