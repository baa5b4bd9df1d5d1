package jandrel.service.people;

import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.SingleSignOnApi.WayIn;
import jandrel.api.SingleSignOnApi.WaysIn;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignOnRefused.Why;
import jandrel.store.people.IdentityProviders;
import jandrel.store.people.IdentityProviders.IdentityProvider;
import jandrel.store.people.PasswordRules;
import jandrel.store.people.SignIns.SignIn;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Objects;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The way to a provider's page and back. A browser shows these addresses as pages, so what goes wrong is said on the console's. */
@RestController
class SingleSignOnCalls {
    private static final Logger LOG = LoggerFactory.getLogger(SingleSignOnCalls.class);
    private static final String HOME = "/overview";
    private static final int MOST_SAID = 300;
    private final SingleSignOn signOn;
    private final ProviderSignIn signIns;
    private final IdentityProviders providers;
    private final PasswordRules passwordRules;
    private final SignInPace pace;
    private final Tokens tokens;
    private final SessionCookies cookies;

    SingleSignOnCalls(
            SingleSignOn signOn,
            ProviderSignIn signIns,
            IdentityProviders providers,
            PasswordRules passwordRules,
            SignInPace pace,
            Tokens tokens,
            SessionCookies cookies) {
        this.signOn = signOn;
        this.signIns = signIns;
        this.providers = providers;
        this.passwordRules = passwordRules;
        this.pace = pace;
        this.tokens = tokens;
        this.cookies = cookies;
    }

    /** How one signs in here. */
    @GetMapping("/api/session/ways")
    WaysIn ways() {
        return new WaysIn(
                providers.all().stream().map(p -> new WayIn(p.id(), p.name())).toList(), passwordRules.allowed());
    }

    /** @param to the console's page that was asked for */
    @Hidden
    @GetMapping("/api/session/providers/{id}/start")
    void start(
            @PathVariable("id") UUID id,
            @RequestParam(name = "to", defaultValue = HOME) String to,
            HttpServletResponse response) {
        IdentityProvider provider = providers.one(id).orElseThrow(() -> Refusal.notFound("provider"));
        try {
            SingleSignOn.Begun begun = signOn.begin(provider, local(to));
            cookies.signOn(response, begun.cookie());
            go(response, begun.address().toString());
        } catch (SignOnRefused refused) {
            sorry(response, provider.name(), refused);
        }
    }

    /** Never anybody else's page. */
    private static String local(String to) {
        return to.matches("/[^/\\\\].{0,1000}") && to.chars().noneMatch(Character::isISOControl) ? to : HOME;
    }

    @Hidden
    @GetMapping(SingleSignOn.BACK)
    void back(HttpServletRequest request, HttpServletResponse response) {
        String cookie = SessionCookies.signOn(request);
        cookies.signOn(response, "");
        String from = "a provider";
        try {
            SingleSignOn.UnderWay underWay =
                    signOn.underWay(cookie, Objects.requireNonNullElse(request.getParameter("state"), ""));
            from = providers
                    .one(underWay.provider())
                    .map(IdentityProvider::name)
                    .orElse(from);
            String code = request.getParameter("code");
            if (code == null || code.isEmpty()) {
                throw new SignOnRefused(Why.DENIED, "it sends no code", null);
            }
            SignInPace.Attempt attempt = pace.attempt(request.getRemoteAddr());
            SingleSignOn.Claimed claimed = signOn.end(underWay, code, request.getParameter("iss"));
            SignIn signIn = signIns.of(claimed);
            String device = SessionCookies.device(request);
            Tokens.Given given = tokens.openFor(signIn, SessionCookies.SESSION, request.getRemoteAddr(), device);
            providers.openedBy(given.who().token(), claimed.provider().id(), signOn.hint(claimed));
            attempt.succeeded();
            cookies.open(given, request, response);
            go(response, claimed.to());
        } catch (SignOnRefused refused) {
            sorry(response, from, refused);
        }
    }

    private static void sorry(HttpServletResponse response, String provider, SignOnRefused refused) {
        // some of it is the provider's own words
        String why = String.valueOf(refused.getMessage()).replaceAll("\\p{Cntrl}", " ");
        LOG.warn(
                "somebody from {} was not let in ({}): {}",
                provider,
                refused.why().word(),
                why.substring(0, Math.min(why.length(), MOST_SAID)));
        go(
                response,
                "/sign-in?problem=" + refused.why().word() + "&from="
                        + URLEncoder.encode(provider, StandardCharsets.UTF_8));
    }

    private static void go(HttpServletResponse response, String address) {
        response.setStatus(HttpStatus.FOUND.value());
        response.setHeader(HttpHeaders.LOCATION, address);
    }
}
