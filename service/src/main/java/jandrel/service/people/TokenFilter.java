package jandrel.service.people;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Knows the asker by a bearer token or by the console's cookie, which holds one. No node keeps a session. */
final class TokenFilter extends OncePerRequestFilter {
    static final String COOKIE = "jandrel_session";
    private static final String BEARER = "Bearer ";
    private final Tokens tokens;

    TokenFilter(Tokens tokens) {
        this.tokens = tokens;
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
        Cookie[] cookies = request.getCookies();
        return cookies == null
                ? Optional.empty()
                : Arrays.stream(cookies)
                        .filter(c -> c.getName().equals(COOKIE))
                        .map(Cookie::getValue)
                        .findFirst();
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        if (request.getRequestURI().matches("/(api|scim)/.*")) {
            token(request).flatMap(tokens::who).ifPresent(TokenFilter::signIn);
        }
        chain.doFilter(request, response);
    }

    private static void signIn(SignedIn who) {
        SecurityContext context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(
                who,
                null,
                List.of(new SimpleGrantedAuthority("ROLE_" + who.role().name()))));
        SecurityContextHolder.setContext(context);
    }
}
