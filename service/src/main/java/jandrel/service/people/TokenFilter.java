package jandrel.service.people;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jandrel.service.kernel.Cookies;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Knows the asker by a bearer token or by the console's cookie, which holds one. No node keeps a session. */
final class TokenFilter extends OncePerRequestFilter {
    static final String COOKIE = "jandrel_session";
    /** What somebody may do whose password somebody else knows: choose another. */
    static final String UNCLAIMED = "UNCLAIMED";
    /** What an administrator may do who has still to set up a second factor: that. */
    static final String ONE_FACTOR = "ONE_FACTOR";

    private static final String BEARER = "Bearer ";
    private final Tokens tokens;
    private final Refused refused;

    /** Says no to a token that does not go so far. */
    interface Refused {
        void say(HttpServletResponse response, String detail) throws IOException;
    }

    TokenFilter(Tokens tokens, Refused refused) {
        this.tokens = tokens;
        this.refused = refused;
    }

    static boolean hasBearer(HttpServletRequest request) {
        String header = request.getHeader("Authorization");
        return header != null && header.startsWith(BEARER);
    }

    static Optional<String> token(HttpServletRequest request) {
        if (hasBearer(request)) {
            return Optional.of(request.getHeader("Authorization")
                    .substring(BEARER.length())
                    .strip());
        }
        return cookie(request, COOKIE);
    }

    static Optional<String> cookie(HttpServletRequest request, String name) {
        Cookie[] cookies = request.getCookies();
        return cookies == null
                ? Optional.empty()
                : Arrays.stream(cookies)
                        .filter(c -> c.getName().equals(name) || c.getName().equals(Cookies.OF_HOST + name))
                        .map(Cookie::getValue)
                        .findFirst();
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (request.getServletPath().matches("/(api|scim)/.*")) {
            Optional<Tokens.Holder> holder =
                    token(request).flatMap(token -> tokens.who(token, request.getRemoteAddr()));
            Set<TokenScope> scopes = holder.map(Tokens.Holder::scopes).orElse(null);
            if (scopes != null) {
                Optional<TokenScope> needed = TokenScope.needed(request.getMethod(), request.getServletPath());
                if (needed.filter(n -> n.isIn(scopes)).isEmpty()) {
                    refused.say(response, detail(scopes, needed));
                    return;
                }
            }
            holder.ifPresent(TokenFilter::signIn);
        }
        chain.doFilter(request, response);
    }

    private static String detail(Set<TokenScope> scopes, Optional<TokenScope> needed) {
        String has = scopes.stream().map(TokenScope::word).collect(Collectors.joining(", "));
        return needed.map(s -> "It may be used for " + has + "; this needs " + s.word() + ".")
                .orElse("No token that was made for a program may: sign in with your password.");
    }

    private static void signIn(Tokens.Holder holder) {
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        String role = holder.temporary()
                ? UNCLAIMED
                : holder.needsCode() ? ONE_FACTOR : holder.who().role().name();
        context.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(
                holder.who(), holder, List.of(new SimpleGrantedAuthority("ROLE_" + role))));
        SecurityContextHolder.setContext(context);
    }
}
