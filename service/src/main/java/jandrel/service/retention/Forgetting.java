package jandrel.service.retention;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jandrel.store.connections.Connections;
import jandrel.store.directory.ImportUndo;
import jandrel.store.kernel.Quotas;
import jandrel.store.measures.ChangeCounts;
import jandrel.store.measures.SellingKeeper;
import jandrel.store.people.SignInAttempts;
import jandrel.store.people.SignInTokens;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.timeline.Tallies;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** What has served its turn goes within the hour: tokens and consents past their end, rehearsals that came to nothing, what decisions were years ago, what files changed. */
@Configuration(proxyBeanMethods = false)
class Forgetting {
    private static final Duration TRIALS = Duration.ofHours(1);
    private static final Duration DEVICES = Duration.ofDays(180);
    private static final int MOST_DEVICES = 20;
    private static final Duration REHEARSALS = Duration.ofDays(1);
    private static final Duration CHANGES = Duration.ofDays(730);
    private static final Duration TALLIES = Duration.ofSeconds(20);

    @Bean
    RecurringTask<Void> forget(
            SignInTokens tokens,
            SignInAttempts attempts,
            Quotas quotas,
            Connections connections,
            Rehearsals rehearsals,
            SellingKeeper kept,
            ChangeCounts changes,
            ImportUndo imports,
            Clock clock) {
        return Tasks.recurring("forget", FixedDelay.ofHours(1)).execute((instance, context) -> {
            Instant now = clock.instant();
            tokens.removeExpired(now);
            attempts.forget(now.minus(TRIALS));
            quotas.forget(LocalDate.ofInstant(now, ZoneOffset.UTC));
            attempts.forgetDevices(now.minus(DEVICES), MOST_DEVICES);
            connections.forgetConsents(now);
            rehearsals.forget(now.minus(REHEARSALS));
            kept.forget(now);
            changes.forget(now.minus(CHANGES));
            imports.forget(now);
        });
    }

    @Bean
    RecurringTask<Void> mergeTallies(Tallies tallies) {
        return Tasks.recurring("merge-tallies", FixedDelay.of(TALLIES)).execute((instance, context) -> tallies.merge());
    }
}
