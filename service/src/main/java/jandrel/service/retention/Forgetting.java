package jandrel.service.retention;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jandrel.store.connections.Connections;
import jandrel.store.people.SignIns;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.timeline.Tallies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What has served its turn goes within the hour: tokens and consents past their end, rehearsals that came to nothing. */
@Configuration(proxyBeanMethods = false)
class Forgetting {
    private static final Duration REHEARSALS = Duration.ofDays(1);
    private static final Duration TALLIES = Duration.ofSeconds(20);

    @Bean
    RecurringTask<Void> forget(SignIns signIns, Connections connections, Rehearsals rehearsals, Clock clock) {
        return Tasks.recurring("forget", FixedDelay.ofHours(1)).execute((instance, context) -> {
            Instant now = clock.instant();
            signIns.removeExpired(now);
            connections.forgetConsents(now);
            rehearsals.forget(now.minus(REHEARSALS));
        });
    }

    @Bean
    RecurringTask<Void> mergeTallies(Tallies tallies) {
        return Tasks.recurring("merge-tallies", FixedDelay.of(TALLIES)).execute((instance, context) -> tallies.merge());
    }
}
