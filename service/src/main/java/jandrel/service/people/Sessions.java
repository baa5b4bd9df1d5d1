package jandrel.service.people;

import jakarta.servlet.http.HttpServletRequest;
import jandrel.service.kernel.Secrets;
import jandrel.store.people.SignInTokens;
import java.time.Clock;
import java.util.Collection;
import java.util.HexFormat;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Whether answers that stay open may stay so: their session may end before they do. */
@Component
public class Sessions {
    private static final HexFormat HEX = HexFormat.of();
    private final SignInTokens tokens;
    private final Clock clock;

    Sessions(SignInTokens tokens, Clock clock) {
        this.tokens = tokens;
        this.clock = clock;
    }

    /** Names the session that a call comes with; nobody can sign in by it. */
    public String key(HttpServletRequest request) {
        return TokenFilter.token(request)
                .map(token -> HEX.formatHex(Secrets.hash(token)))
                .orElseThrow();
    }

    /** @return those of these that have not ended */
    public Set<String> open(Collection<String> keys) {
        return keys.isEmpty()
                ? Set.of()
                : tokens.open(keys.toArray(String[]::new), clock.instant()).stream()
                        .collect(Collectors.toUnmodifiableSet());
    }
}
