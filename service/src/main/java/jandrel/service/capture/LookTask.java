package jandrel.service.capture;

import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jandrel.service.Settings;
import jandrel.store.Connections;
import java.time.Clock;
import java.util.UUID;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The scheduler's task for one connection: look, say how it went, come back. */
@Configuration(proxyBeanMethods = false)
class LookTask {
    @Bean
    CustomTask<Void> look(Capture capture, Connections connections, Settings settings, Clock clock) {
        return Tasks.custom(Looks.TASK, Void.class)
                .onFailure((complete, operations) ->
                        operations.reschedule(complete, clock.instant().plus(settings.lookEvery())))
                .execute((instance, context) -> {
                    UUID id = UUID.fromString(instance.getId());
                    capture.look(id);
                    return (CompletionHandler<Void>) (complete, operations) -> connections
                            .connection(id)
                            .ifPresentOrElse(
                                    c -> operations.reschedule(
                                            complete,
                                            Looks.next(clock.instant(), settings.lookEvery(), c.state(), c.failures())),
                                    operations::stop);
                });
    }
}
