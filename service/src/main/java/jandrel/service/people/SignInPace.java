package jandrel.service.people;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.Bucket;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** How often one may try to sign in: from one address, and in all. Who signs in has spent nothing. */
@Component
class SignInPace {
    private static final Duration MINUTE = Duration.ofMinutes(1);
    private static final int MOST_ADDRESSES = 20_000;
    private final Cache<String, Bucket> byAddress = Caffeine.newBuilder()
            .maximumSize(MOST_ADDRESSES)
            .expireAfterAccess(Duration.ofMinutes(10))
            .build();
    private final Settings.SignIns limits;
    private final Bucket all;

    SignInPace(Settings settings) {
        limits = settings.signIns();
        all = bucket(limits.inAll());
    }

    private static Bucket bucket(int perMinute) {
        return Bucket.builder()
                .addLimit(limit -> limit.capacity(perMinute).refillGreedy(perMinute, MINUTE))
                .build();
    }

    /** One that is under way; it is counted until it has succeeded. */
    record Attempt(List<Bucket> counted) {
        void succeeded() {
            counted.forEach(bucket -> bucket.addTokens(1));
        }
    }

    /** @throws Refusal if there were too many */
    Attempt attempt(String address) {
        Bucket own = Objects.requireNonNull(byAddress.get(address, a -> bucket(limits.fromOneAddress())));
        if (!own.tryConsume(1)) {
            throw tooMany();
        }
        if (!all.tryConsume(1)) {
            own.addTokens(1);
            throw tooMany();
        }
        return new Attempt(List.of(own, all));
    }

    private static Refusal tooMany() {
        return Refusal.of(
                HttpStatus.TOO_MANY_REQUESTS, "Too many attempts to sign in", "Wait a minute, then try again.");
    }
}
