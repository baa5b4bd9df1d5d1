package jandrel.service.capture;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceCurrentlyExecutingException;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceNotFoundException;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import jandrel.store.Connections;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.UUID;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** When the sources of a connection are looked at: leased from the database, so that any node may do it, and one does. */
@Component
class Looks {
    static final String TASK = "look";
    private final ObjectProvider<SchedulerClient> scheduler;
    private final Connections connections;
    private final Clock clock;

    Looks(ObjectProvider<SchedulerClient> scheduler, Connections connections, Clock clock) {
        this.scheduler = scheduler;
        this.connections = connections;
        this.clock = clock;
    }

    /** From now on, again and again. */
    void begin(UUID connection) {
        scheduler
                .getObject()
                .scheduleIfNotExists(
                        new com.github.kagkarlsson.scheduler.task.TaskInstance<Void>(TASK, connection.toString()),
                        clock.instant());
    }

    /** Once more, without waiting for its time. One under way right now is left alone: it ends in a moment. */
    void now(UUID connection) {
        try {
            scheduler.getObject().reschedule(TaskInstanceId.of(TASK, connection.toString()), clock.instant());
        } catch (TaskInstanceNotFoundException none) {
            begin(connection);
        } catch (TaskInstanceCurrentlyExecutingException already) {
            // it is being looked at
        }
    }

    /** Looks at the connections where something is to be fetched once more. */
    void nowWhereWanted() {
        connections.wanted().forEach(this::now);
    }

    /** The longer a server fails, the longer it is left alone; one that refuses the sign-in is not hammered. */
    static Instant next(Instant now, Duration usual, String state, int failures) {
        return switch (state) {
            case "capturing", "paused", "disconnected", "refused", "waiting-for-consent" -> now.plus(usual);
            case "needs-sign-in" -> now.plus(Duration.ofHours(6));
            default -> {
                Duration wait = usual.multipliedBy(1L << Math.min(failures, 10));
                Duration most = Duration.ofMinutes(15);
                yield now.plus(wait.compareTo(most) > 0 ? most : wait);
            }
        };
    }
}
