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
    RecurringTask<Void> makeRecords(Each each, Strangers strangers, Settling settling, Clock clock) {
        return each.policy("make records", policy -> {
            if (policy.creation().makes() == Creation.Makes.NOTHING) {
                return false;
            }
            List<Stranger> met = strangers.meeting(policy.id(), policy.creation(), clock.instant());
            if (!met.isEmpty()) {
                settling.byItself(policy.name(), policy.creation().makes(), met);
            }
            return !met.isEmpty();
        });
    }

    @Bean
    RecurringTask<Void> openByMeeting(Each each, MeetingOpenings openings, Settling settling, Clock clock) {
        return each.policy(
                "open by meeting",
                policy -> policy.opening().does() != Opening.Does.NOTHING
                        && openings.next(policy, clock.instant(), made -> settling.opened(policy, made)));
    }

    @Bean
    Each eachPolicy(Policies policies, Reopener reopener, WakeUp nudges, Settings settings) {
        return new Each(policies, reopener, nudges, settings);
    }

    /** Something that is done again and again for each policy that is on. */
    record Each(Policies policies, Reopener reopener, WakeUp nudges, Settings settings) {
        private interface Work {
            /** @return whether something was made, so that items are decided again */
            boolean done(Policy policy) throws ImportRejected;
        }

        RecurringTask<Void> policy(String name, Work work) {
            Duration pause = settings.lookEvery().compareTo(MOST_PAUSE) < 0 ? settings.lookEvery() : MOST_PAUSE;
            return Tasks.recurring(name, FixedDelay.of(pause)).execute((instance, context) -> {
                for (Policies.Kept kept : policies.all()) {
                    // while something is yet to be decided, who is a stranger and who is at which account is not
                    // settled
                    if (!kept.enabled() || reopener.left() > 0) {
                        continue;
                    }
                    try {
                        if (work.done(kept.policy())) {
                            nudges.rulesChanged();
                        }
                    } catch (ImportRejected misfit) {
                        LOG.warn(
                                "{}, policy {}: nothing was made: {}",
                                name,
                                kept.policy().id(),
                                misfit.problems().get(0).reason());
                    }
                }
            });
        }
    }
}
