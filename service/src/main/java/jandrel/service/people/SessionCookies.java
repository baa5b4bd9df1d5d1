package jandrel.service.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.service.kernel.Cookies;
import jandrel.service.kernel.Settings;
import java.time.Duration;
import org.springframework.http.HttpHeaders;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.stereotype.Component;

/** What the console's browser keeps: the session, which machine it is, and, between here and a provider, what is under way. */
@Component
class SessionCookies {
    static final Duration SESSION = Duration.ofHours(12);
    private static final Duration DEVICE = Duration.ofDays(180);
    private static final String DEVICE_COOKIE = "jandrel_device";
    private static final String SIGN_ON_COOKIE = "jandrel_sign_on";
    private final Settings settings;
    private final CsrfTokenRepository csrfTokens;

    SessionCookies(Settings settings, CsrfTokenRepository csrfTokens) {
        this.settings = settings;
        this.csrfTokens = csrfTokens;
    }

    static String device(HttpServletRequest request) {
        return TokenFilter.cookie(request, DEVICE_COOKIE).orElse("");
    }

    void open(Tokens.Given token, HttpServletRequest request, HttpServletResponse response) {
        // what somebody may have planted before is worth nothing after
        csrfTokens.saveToken(csrfTokens.generateToken(request), request, response);
        set(response, TokenFilter.COOKIE, token.token(), SESSION, "Strict");
        set(response, DEVICE_COOKIE, token.device(), DEVICE, "Strict");
    }

    void close(HttpServletResponse response) {
        set(response, TokenFilter.COOKIE, "", Duration.ZERO, "Strict");
    }

    static String signOn(HttpServletRequest request) {
        return TokenFilter.cookie(request, SIGN_ON_COOKIE).orElse("");
    }

    /** Comes back from another site's page, so it is not strict. */
    void signOn(HttpServletResponse response, String value) {
        set(response, SIGN_ON_COOKIE, value, value.isEmpty() ? Duration.ZERO : SingleSignOn.LASTS, "Lax");
    }

    private void set(HttpServletResponse response, String name, String value, Duration life, String sameSite) {
        response.addHeader(
                HttpHeaders.SET_COOKIE,
                Cookies.cookie(settings, name, value, life)
                        .sameSite(sameSite)
                        .path("/")
                        .build()
                        .toString());
    }
}
