package jandrel.service.triage;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jandrel.core.directory.ImportRejected;
import jandrel.core.policy.Creation;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Policy;
import jandrel.core.triage.Stranger;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.WakeUp;
import jandrel.store.kernel.Reopener;
import jandrel.store.policy.Policies;
import jandrel.store.triage.MeetingOpenings;
import jandrel.store.triage.Strangers;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Makes contacts or leads of strangers, and opens opportunities by meeting, where a policy says so, in batches that can be taken back like
 * anybody's choice.
 */
@Configuration(proxyBeanMethods = false)
class ByItself {
    private static final Logger LOG = LoggerFactory.getLogger(ByItself.class);
    private static final Duration MOST_PAUSE = Duration.ofMinutes(1);

    @Bean
    RecurringTask<Void> makeRecords(
            Policies policies,
            Strangers strangers,
            Settling settling,
            Reopener reopener,
            WakeUp nudges,
            Settings settings,
            Clock clock) {
        Duration pause = settings.lookEvery().compareTo(MOST_PAUSE) < 0 ? settings.lookEvery() : MOST_PAUSE;
        return Tasks.recurring("make records", FixedDelay.of(pause)).execute((instance, context) -> {
            for (Policies.Kept kept : policies.all()) {
                Policy policy = kept.policy();
                // while something is yet to be decided, who is a stranger is not settled
                if (!kept.enabled() || policy.creation().makes() == Creation.Makes.NOTHING || reopener.left() > 0) {
                    continue;
                }
                List<Stranger> met = strangers.meeting(policy.id(), policy.creation(), clock.instant());
                if (!met.isEmpty()) {
                    try {
                        settling.byItself(policy.name(), policy.creation().makes(), met);
                        nudges.rulesChanged();
                    } catch (ImportRejected misfit) {
                        LOG.warn(
                                "policy {}: nothing was made: {}",
                                policy.id(),
                                misfit.problems().get(0).reason());
                    }
                }
            }
        });
    }

    @Bean
    RecurringTask<Void> openByMeeting(
            Policies policies,
            MeetingOpenings openings,
            Settling settling,
            Reopener reopener,
            WakeUp nudges,
            Settings settings,
            Clock clock) {
        Duration pause = settings.lookEvery().compareTo(MOST_PAUSE) < 0 ? settings.lookEvery() : MOST_PAUSE;
        return Tasks.recurring("open by meeting", FixedDelay.of(pause)).execute((instance, context) -> {
            for (Policies.Kept kept : policies.all()) {
                Policy policy = kept.policy();
                // while something is yet to be decided, who is at which account is not settled
                if (!kept.enabled() || policy.opening().does() == Opening.Does.NOTHING || reopener.left() > 0) {
                    continue;
                }
                try {
                    if (openings.next(policy, clock.instant(), made -> settling.opened(policy, made))) {
                        nudges.rulesChanged();
                    }
                } catch (ImportRejected misfit) {
                    LOG.warn(
                            "policy {}: nothing was opened: {}",
                            policy.id(),
                            misfit.problems().get(0).reason());
                }
            }
        });
    }
}
