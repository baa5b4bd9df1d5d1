package jandrel.service.capture;

import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Rhythm;
import jandrel.service.Settings;
import jandrel.store.Connections;
import jandrel.store.Policies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.UUID;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The scheduler's task for one connection: look, say how it went, come back when its person's policy says so. */
@Configuration(proxyBeanMethods = false)
class LookTask {
    @Bean
    CustomTask<Void> look(
            Capture capture, Looks looks, Connections connections, Policies policies, Settings settings, Clock clock) {
        return Tasks.custom(Looks.TASK, Void.class)
                .onFailure((complete, operations) ->
                        operations.reschedule(complete, clock.instant().plus(settings.lookEvery())))
                .execute((instance, context) -> {
                    UUID id = UUID.fromString(instance.getId());
                    capture.look(id);
                    return (CompletionHandler<Void>) (complete, operations) -> connections
                            .connection(id)
                            .ifPresentOrElse(
                                    c -> {
                                        Instant now = clock.instant();
                                        Instant usual = policies.of(c.person())
                                                .map(Policy::rhythm)
                                                .orElse(Rhythm.SAFE)
                                                .next(now.atZone(ZoneOffset.UTC), settings.lookEvery())
                                                .toInstant();
                                        Instant due =
                                                Looks.next(now, Duration.between(now, usual), c.state(), c.failures());
                                        connections.due(id, due);
                                        looks.after(id, now, due, at -> operations.reschedule(complete, at));
                                    },
                                    operations::stop);
                });
    }
}
