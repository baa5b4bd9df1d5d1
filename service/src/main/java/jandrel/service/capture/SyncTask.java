package jandrel.service.capture;

import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Rhythm;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Settings;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.policy.Policies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.UUID;
import java.util.concurrent.ThreadLocalRandom;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The scheduler's task for one connection: look, say how it went, come back when its person's policy says so. */
@Configuration(proxyBeanMethods = false)
class SyncTask {
    private static final Duration AFTER_A_DEFECT = Duration.ofSeconds(30);

    /** Whose turn it is, is told; this is for those whom a node would have told that has ended since. */
    private static final Duration IN_LINE = Duration.ofMinutes(1);

    private final Connections connections;
    private final Policies policies;
    private final Settings settings;

    SyncTask(Connections connections, Policies policies, Settings settings) {
        this.connections = connections;
        this.policies = policies;
        this.settings = settings;
    }

    @Bean
    CustomTask<Void> look(Capture capture, SyncScheduler looks, Clock clock) {
        return Tasks.custom(SyncScheduler.TASK, Void.class)
                .onFailure((complete, operations) ->
                        operations.reschedule(complete, clock.instant().plus(AFTER_A_DEFECT)))
                .execute((instance, context) -> {
                    UUID id = UUID.fromString(instance.getId());
                    Capture.After after = capture.look(id);
                    return (CompletionHandler<Void>) (complete, operations) -> connections
                            .connection(id)
                            .ifPresentOrElse(
                                    c -> {
                                        Instant now = clock.instant();
                                        Instant next = after.ran() ? next(c, after, now) : now.plus(IN_LINE);
                                        looks.after(id, now, next, at -> operations.reschedule(complete, at));
                                    },
                                    operations::stop);
                });
    }

    private Instant next(Connection c, Capture.After after, Instant now) {
        Instant usual = policies.of(c.person())
                .map(Policy::rhythm)
                .orElse(Rhythm.SAFE)
                .next(now.atZone(ZoneOffset.UTC), settings.lookEvery())
                .toInstant();
        boolean scout = connections.isFirstUnreachable(c.id());
        double dice = ThreadLocalRandom.current().nextDouble();
        Instant next = after.retryAfter()
                .map(now::plus)
                .orElseGet(() ->
                        SyncScheduler.next(now, usual, new SyncScheduler.Failed(c.state(), c.failures(), scout, dice)));
        connections.due(c.id(), next);
        return next;
    }
}
