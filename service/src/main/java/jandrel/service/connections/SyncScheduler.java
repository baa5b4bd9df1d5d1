package jandrel.service.connections;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.ExecutionException;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceCurrentlyExecutingException;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceNotFoundException;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import jandrel.store.connections.Connections;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** When the sources of a connection are looked at: leased from the database, so that any node may do it, and one does. */
@Component
public class SyncScheduler {
    public static final String TASK = "look";
    private static final int TRIES = 5;
    private static final Duration MOST_WAIT = Duration.ofMinutes(15);
    /** Some five minutes of trying every eight seconds, then every minute. */
    private static final int OFTEN = 40;

    private static final Duration SCOUTS_WAIT = Duration.ofSeconds(8);
    private static final Duration SCOUTS_LONG_WAIT = Duration.ofMinutes(1);
    private static final Set<String> LISTENED = Set.of("connecting", "capturing", "unreachable", "broken");
    private final ObjectProvider<SchedulerClient> scheduler;
    private final Connections connections;
    private final Clock clock;

    SyncScheduler(ObjectProvider<SchedulerClient> scheduler, Connections connections, Clock clock) {
        this.scheduler = scheduler;
        this.connections = connections;
        this.clock = clock;
    }

    /** From now on, again and again; nothing where it is so already. */
    private void begin(UUID connection) {
        scheduler.getObject().scheduleIfNotExists(new TaskInstance<Void>(TASK, connection.toString()), clock.instant());
        atOnce();
    }

    /** From now on, again and again: those that are new. */
    void begin(List<UUID> fresh) {
        scheduler
                .getObject()
                .scheduleBatch(fresh.stream().map(id -> new TaskInstance<Void>(TASK, id.toString())), clock.instant());
        atOnce();
    }

    /** Nobody who has just connected waits until the scheduler looks round by itself. */
    private void atOnce() {
        if (!TransactionSynchronizationManager.isSynchronizationActive()) {
            wake();
            return;
        }
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                wake();
            }
        });
    }

    private void wake() {
        if (scheduler.getObject() instanceof Scheduler here) {
            here.triggerCheckForDueExecutions();
        }
    }

    /** Once more, without waiting for its time; after the look under way, if there is one, as that may have missed what is new. */
    public void now(UUID connection) {
        TaskInstanceId task = TaskInstanceId.of(TASK, connection.toString());
        for (int tries = 0; tries < TRIES; tries++) {
            try {
                scheduler.getObject().reschedule(task, clock.instant());
                atOnce();
                return;
            } catch (TaskInstanceNotFoundException none) {
                begin(connection);
                return;
            } catch (TaskInstanceCurrentlyExecutingException | ExecutionException underWay) {
                // the second when it was taken up between being read and being moved
                connections.lookAgain(connection);
                if (isUnderWay(task)) {
                    return;
                }
            }
        }
    }

    /** All that is this person's, once more: they are covered again. */
    public void nowFor(UUID person) {
        connections.of(person).forEach(this::now);
    }

    /** What a server tells of its own accord; one that does not take the sign-in is not tried again for that. */
    public void news(UUID connection) {
        if (connections
                .connection(connection)
                .map(c -> LISTENED.contains(c.state()))
                .orElse(false)) {
            now(connection);
        }
    }

    private boolean isUnderWay(TaskInstanceId task) {
        return scheduler
                .getObject()
                .getScheduledExecution(task)
                .map(e -> e.isPicked())
                .orElse(false);
    }

    /**
     * Plans the next look after one: at once if news came meanwhile, be it in the moment of planning, when the look still counts as
     * under way.
     */
    public void after(UUID connection, Instant now, Instant due, Consumer<Instant> plan) {
        plan.accept(connections.takeLookAgain(connection) > 0 ? now : due);
        if (connections.takeLookAgain(connection) > 0) {
            now(connection);
        }
    }

    /** Looks at the connections where something is to be fetched once more. */
    public void nowWhereWanted() {
        connections.wanted().forEach(this::now);
    }

    /** Those that wait for a server that has just been found to be well again. */
    public void nowForAllAt(UUID server, UUID but) {
        connections.unreachableAt(server).stream().filter(id -> !id.equals(but)).forEach(this::now);
    }

    /**
     * How a failed connection is tried again.
     *
     * @param failures in a row
     * @param scout whether it is the one by which its server is found to be well again: it keeps trying often, the others wait for longer
     *     each time
     * @param dice from 0 to 1, so that those who failed together do not come back together
     */
    public record Failed(String state, int failures, boolean scout, double dice) {}

    /** One that refuses the sign-in is not hammered. */
    public static Instant next(Instant now, Instant usual, Failed failed) {
        return switch (failed.state()) {
            case "capturing", "paused", "disconnected", "refused", "waiting-for-consent" -> usual;
            case "needs-sign-in" -> now.plus(Duration.ofHours(6));
            default -> now.plus(afterFailure(failed));
        };
    }

    private static Duration afterFailure(Failed failed) {
        long first = 2_000 + (long) (3_000 * failed.dice());
        long doubled = first << Math.min(Math.max(0, failed.failures() - 1), 10);
        Duration most = !failed.scout() ? MOST_WAIT : failed.failures() <= OFTEN ? SCOUTS_WAIT : SCOUTS_LONG_WAIT;
        return Duration.ofMillis(Math.min(doubled, most.toMillis() - (long) (1_000 * failed.dice())));
    }
}
