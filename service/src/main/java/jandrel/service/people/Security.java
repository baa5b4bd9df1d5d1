package jandrel.service.people;

import static org.springframework.http.HttpMethod.DELETE;
import static org.springframework.http.HttpMethod.GET;
import static org.springframework.http.HttpMethod.POST;
import static org.springframework.http.HttpMethod.PUT;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.service.kernel.Settings;
import java.io.IOException;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.security.config.annotation.web.builders.HttpSecurity;
import org.springframework.security.config.http.SessionCreationPolicy;
import org.springframework.security.web.SecurityFilterChain;
import org.springframework.security.web.authentication.UsernamePasswordAuthenticationFilter;
import org.springframework.security.web.authentication.session.NullAuthenticatedSessionStrategy;
import org.springframework.security.web.csrf.CookieCsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfException;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import tools.jackson.databind.json.JsonMapper;

/** Who may call what. What a caller then gets to see is for {@code Visibility}, not for here. */
@Configuration(proxyBeanMethods = false)
class Security {
    private static final String ADMINISTRATOR = "ADMINISTRATOR";
    /** But for those who have still to choose a password. */
    private static final String[] EVERYBODY = {ADMINISTRATOR, "MANAGER", "AUDITOR", "REP"};

    private static final long ONE_YEAR = 365 * 24 * 3600L;
    private static final String[] OVERSIGHT = {ADMINISTRATOR, "MANAGER", "AUDITOR"};
    private static final String CONTENT_POLICY =
            "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline';"
                    + " script-src 'self'; frame-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    /** In a cookie that the console's script reads and sends back in a header. */
    @Bean
    CsrfTokenRepository csrfTokens(Settings settings) {
        CookieCsrfTokenRepository tokens = CookieCsrfTokenRepository.withHttpOnlyFalse();
        tokens.setCookieCustomizer(c -> c.sameSite("Strict").secure(settings.isSecure()));
        return tokens;
    }

    @Bean
    SecurityFilterChain chain(
            HttpSecurity http, Settings settings, Tokens tokens, CsrfTokenRepository csrfTokens, JsonMapper json)
            throws Exception {
        // every call is signed in anew here: a token that changed with each would fail calls that run beside each other
        http.csrf(csrf -> csrf.spa()
                .csrfTokenRepository(csrfTokens)
                .sessionAuthenticationStrategy(new NullAuthenticatedSessionStrategy())
                .ignoringRequestMatchers(TokenFilter::hasBearer)
                .ignoringRequestMatchers("/api/tokens"));
        http.sessionManagement(s -> s.sessionCreationPolicy(SessionCreationPolicy.STATELESS));
        http.requestCache(cache -> cache.disable());
        http.formLogin(f -> f.disable()).httpBasic(b -> b.disable()).logout(l -> l.disable());
        // TLS is a proxy's work, so no request says by itself that it came by it
        http.headers(h -> h.httpStrictTransportSecurity(t -> t.requestMatcher(r -> settings.isHttps())
                        .includeSubDomains(false)
                        .maxAgeInSeconds(ONE_YEAR))
                .contentSecurityPolicy(p -> p.policyDirectives(CONTENT_POLICY))
                .referrerPolicy(r -> r.policy(
                        org.springframework.security.web.header.writers.ReferrerPolicyHeaderWriter.ReferrerPolicy
                                .NO_REFERRER)));
        http.addFilterBefore(
                new TokenFilter(
                        tokens,
                        (response, detail) ->
                                answer(response, json, HttpStatus.FORBIDDEN, "This token does not go so far", detail)),
                UsernamePasswordAuthenticationFilter.class);
        http.authorizeHttpRequests(a -> a.requestMatchers(
                        POST, "/api/session", "/api/tokens", "/api/session/forgotten", "/api/session/link")
                .permitAll()
                .requestMatchers(PUT, "/api/session/link")
                .permitAll()
                .requestMatchers(PUT, "/api/session/password")
                .authenticated()
                .requestMatchers("/api/session/second-factor/**")
                .hasAnyRole(ADMINISTRATOR, "MANAGER", "AUDITOR", "REP", TokenFilter.ONE_FACTOR)
                .requestMatchers(
                        GET,
                        "/api/session",
                        "/api/session/ways",
                        "/api/session/providers/*/start",
                        SingleSignOn.BACK,
                        "/api/openapi.json",
                        "/api/ops/health")
                .permitAll()
                .requestMatchers(DELETE, "/api/session", "/api/tokens/current")
                .authenticated()
                .requestMatchers(GET, "/api/consent")
                .permitAll()
                .requestMatchers(GET, "/api/journal", "/api/journal/*", "/api/journal.ndjson")
                .hasAnyRole(ADMINISTRATOR, "AUDITOR")
                .requestMatchers(GET, "/api/triage/deeds", "/api/triage/twins")
                .hasRole(ADMINISTRATOR)
                .requestMatchers(
                        GET,
                        "/api/exclusions/suggestions",
                        "/api/policies/**",
                        "/api/rehearsals/**",
                        "/api/background",
                        "/api/outbox",
                        "/api/allowed-hosts",
                        "/api/servers/**",
                        "/api/company",
                        "/api/sign-ins")
                .hasAnyRole(OVERSIGHT)
                // from where somebody works is nobody's business but an administrator's
                .requestMatchers(
                        GET,
                        "/api/sign-ins/*/tokens",
                        "/api/providers",
                        "/api/password-rule",
                        "/api/readers/**",
                        "/api/export/everything")
                .hasRole(ADMINISTRATOR)
                .requestMatchers(GET, "/api/**")
                .hasAnyRole(EVERYBODY)
                .requestMatchers(
                        POST,
                        "/api/session/tokens",
                        "/api/notices/read",
                        "/api/notices/snooze",
                        "/api/connections/*/look",
                        "/api/connections/acts",
                        "/api/connections/*/password",
                        "/api/connections/*/pause",
                        "/api/connections/*/resume",
                        "/api/connections/*/consent",
                        "/api/connections",
                        "/api/items/*/pins",
                        "/api/meetings",
                        "/api/meetings/send-out",
                        "/api/conflicts/*/bring-back",
                        "/api/connections/*/calendars",
                        "/api/feeds",
                        "/api/kept-figures",
                        "/api/sources/*/let-pass",
                        "/api/address-books/*/approve",
                        "/api/address-books/*/take-back",
                        "/api/cards/*/settle",
                        "/api/cards/removed",
                        "/api/card-conflicts/*/bring-back",
                        "/api/exclusions/mine",
                        "/api/exclusions/removal")
                .hasAnyRole(EVERYBODY)
                .requestMatchers(
                        PUT,
                        "/api/connections/*/sources",
                        "/api/connections/*/private-categories",
                        "/api/people/*/sharing",
                        "/api/notices/choice",
                        "/api/followed/*",
                        "/api/activities/*/readers",
                        "/api/meetings/*",
                        "/api/meetings/*/outcome",
                        "/api/meetings/*/result")
                .hasAnyRole(EVERYBODY)
                .requestMatchers(
                        DELETE,
                        "/api/session/tokens/*",
                        "/api/connections/*",
                        "/api/exclusions/*",
                        "/api/activities/*/readers",
                        "/api/items/*/pins/*",
                        "/api/meetings/*",
                        "/api/followed/*",
                        "/api/feeds/*",
                        "/api/kept-figures/*")
                .hasAnyRole(EVERYBODY)
                .requestMatchers(POST, "/api/**")
                .hasRole(ADMINISTRATOR)
                .requestMatchers(PUT, "/api/**")
                .hasRole(ADMINISTRATOR)
                .requestMatchers(DELETE, "/api/**")
                .hasRole(ADMINISTRATOR)
                .requestMatchers("/scim/v2/**")
                .hasRole(ADMINISTRATOR)
                .requestMatchers("/api/**")
                .denyAll()
                .requestMatchers(GET, "/**")
                .permitAll()
                .anyRequest()
                .denyAll());
        http.exceptionHandling(e -> e.authenticationEntryPoint((request, response, refused) -> answer(
                        response, json, HttpStatus.UNAUTHORIZED, "You are not signed in", "Sign in, then try again."))
                .accessDeniedHandler((request, response, refused) -> answer(
                        response,
                        json,
                        HttpStatus.FORBIDDEN,
                        refused instanceof CsrfException
                                ? "The request does not prove that it comes from the console"
                                : "Your role does not allow this",
                        refused instanceof CsrfException
                                ? "Load the page again, then try again."
                                : "Ask an administrator.")));
        return http.build();
    }

    private static void answer(
            HttpServletResponse response, JsonMapper json, HttpStatus status, String title, String detail)
            throws IOException {
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        response.setCharacterEncoding("UTF-8");
        response.getWriter().write(json.writeValueAsString(problem));
    }
}
