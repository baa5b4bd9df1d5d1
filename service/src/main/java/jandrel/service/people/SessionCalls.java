package jandrel.service.people;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.SessionApi.ChosenPassword;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Forgotten;
import jandrel.api.SessionApi.OpenedLink;
import jandrel.api.SessionApi.SignInLink;
import jandrel.api.SessionApi.Token;
import jandrel.api.SessionApi.Whoami;
import jandrel.api.SingleSignOnApi.SignedOut;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Secrets;
import jandrel.store.people.IdentityProviders;
import java.time.Duration;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out: with a cookie for the console, with a bearer token for the client; the first time by a link that came by mail. */
@RestController
class SessionCalls {
    private static final Duration TOKEN = Duration.ofDays(90);
    private final Tokens tokens;
    private final SignInByMail byMail;
    private final OwnPassword ownPassword;
    private final SignInPace pace;
    private final SessionCookies cookies;
    private final SingleSignOn signOn;
    private final IdentityProviders providers;

    SessionCalls(
            Tokens tokens,
            SignInByMail byMail,
            OwnPassword ownPassword,
            SignInPace pace,
            SessionCookies cookies,
            SingleSignOn signOn,
            IdentityProviders providers) {
        this.tokens = tokens;
        this.byMail = byMail;
        this.ownPassword = ownPassword;
        this.pace = pace;
        this.cookies = cookies;
        this.signOn = signOn;
        this.providers = providers;
    }

    /** Also hands out the CSRF token, by asking for it. */
    @GetMapping("/api/session")
    Whoami whoami(
            @AuthenticationPrincipal @Nullable SignedIn me,
            @Parameter(hidden = true) @Nullable Authentication how,
            @Parameter(hidden = true) CsrfToken csrf) {
        csrf.getToken();
        if (me == null || how == null) {
            throw Refusal.of(HttpStatus.UNAUTHORIZED, "You are not signed in", "Sign in, then try again.");
        }
        return shown(holder(how));
    }

    static Tokens.Holder holder(Authentication how) {
        return (Tokens.Holder) Objects.requireNonNull(how.getCredentials());
    }

    @PostMapping("/api/session")
    Whoami signIn(@RequestBody Credentials given, HttpServletRequest request, HttpServletResponse response) {
        return opened(
                tokens.give(
                        request.getRemoteAddr(),
                        given.login(),
                        given.password(),
                        Objects.requireNonNullElse(given.code(), ""),
                        "console",
                        "",
                        SessionCookies.SESSION,
                        SessionCookies.device(request)),
                request,
                response);
    }

    private Whoami opened(Tokens.Given token, HttpServletRequest request, HttpServletResponse response) {
        cookies.open(token, request, response);
        return shown(token.who());
    }

    /** Here first; the answer says where the browser ends it at the provider that opened it, if it can. */
    @DeleteMapping("/api/session")
    ResponseEntity<SignedOut> signOut(HttpServletRequest request, HttpServletResponse response) {
        Optional<String> token = TokenFilter.token(request);
        Optional<IdentityProviders.OpenedBy> opened = token.flatMap(t -> providers.opener(Secrets.hash(t)));
        token.ifPresent(tokens::takeBack);
        cookies.close(response);
        return opened.flatMap(signOn::endAt)
                .map(end -> ResponseEntity.ok(new SignedOut(end.toString())))
                .orElse(ResponseEntity.noContent().build());
    }

    @PostMapping("/api/tokens")
    Token token(@RequestBody Credentials given, HttpServletRequest request) {
        Tokens.Given token = tokens.give(
                request.getRemoteAddr(),
                given.login(),
                given.password(),
                Objects.requireNonNullElse(given.code(), ""),
                "client",
                Objects.requireNonNullElse(given.label(), ""),
                TOKEN,
                Objects.requireNonNullElse(given.device(), ""));
        return new Token(token.token(), token.expiresAt(), token.device());
    }

    @DeleteMapping("/api/tokens/current")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeBack(HttpServletRequest request) {
        TokenFilter.token(request).ifPresent(tokens::takeBack);
    }

    /** The same answer whether there is such a login or not; a letter goes out if there is. */
    @PostMapping("/api/session/forgotten")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void forgotten(@RequestBody Forgotten given, HttpServletRequest request) {
        pace.attempt(request.getRemoteAddr());
        byMail.forgotten(given.login());
    }

    /** Whose a link is that came by mail. It comes in the body: addresses stand in logs. */
    @PostMapping("/api/session/link")
    OpenedLink link(@RequestBody SignInLink given, HttpServletRequest request) {
        SignInPace.Attempt attempt = pace.attempt(request.getRemoteAddr());
        SignInByMail.Opened opened = byMail.open(given.secret());
        attempt.succeeded();
        return new OpenedLink(
                opened.signIn().login(),
                opened.signIn().name(),
                opened.link().purpose(),
                opened.link().expiresAt());
    }

    /** The holder of the link chooses the password, once, and is signed in. */
    @PutMapping("/api/session/link")
    Whoami choose(@RequestBody ChosenPassword chosen, HttpServletRequest request, HttpServletResponse response) {
        SignInPace.Attempt attempt = pace.attempt(request.getRemoteAddr());
        Tokens.Given given = tokens.open(
                ownPassword.byLink(chosen.secret(), chosen.password(), Objects.requireNonNullElse(chosen.code(), "")),
                "console",
                "",
                SessionCookies.SESSION,
                request.getRemoteAddr(),
                "");
        attempt.succeeded();
        return opened(given, request, response);
    }

    private static Whoami shown(Tokens.Holder holder) {
        SignedIn me = holder.who();
        return new Whoami(
                me.login(),
                me.name(),
                me.role().name().toLowerCase(Locale.ROOT),
                me.person(),
                holder.password(),
                holder.needsCode(),
                holder.temporary());
    }
}
