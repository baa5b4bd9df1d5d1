package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import com.github.kagkarlsson.scheduler.ScheduledExecution;
import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceCurrentlyExecutingException;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import jandrel.service.meetings.CalendarPass;
import jandrel.store.connections.Connections;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.ObjectProvider;

class SyncSchedulerTest {
    private static final Instant NOW = Instant.parse("2026-05-04T12:00:00Z");
    private static final UUID ID = UUID.randomUUID();
    private static final TaskInstanceId TASK = TaskInstanceId.of(SyncScheduler.TASK, ID.toString());
    private final SchedulerClient scheduler = mock(SchedulerClient.class);

    @ParameterizedTest
    @CsvSource({
        "capturing, 0, false, 0.5, PT30S",
        "needs-sign-in, 1, false, 0.5, PT6H",
        "unreachable, 1, false, 0, PT2S",
        "unreachable, 1, false, 1, PT5S",
        "unreachable, 3, false, 0, PT8S",
        "unreachable, 30, false, 0, PT15M",
        "broken, 2147483647, false, 0, PT15M",
        "unreachable, 2, true, 0, PT4S",
        "unreachable, 9, true, 0, PT8S",
        "unreachable, 40, true, 1, PT7S",
        "unreachable, 41, true, 0, PT1M",
    })
    void theLongerAServerFailsTheLongerItIsLeftAloneButForItsScout(
            String state, int failures, boolean scout, double dice, Duration wait) {
        Instant usual = NOW.plusSeconds(30);
        assertThat(SyncScheduler.next(NOW, usual, new SyncScheduler.Failed(state, failures, scout, dice)))
                .isEqualTo(NOW.plus(wait));
    }

    /** While a look is under way; from the second time on that it is asked, the scheduler takes what it is told. */
    @SuppressWarnings("unchecked")
    private SyncScheduler underWay() {
        ObjectProvider<SchedulerClient> provider = mock(ObjectProvider.class);
        when(provider.getObject()).thenReturn(scheduler);
        when(scheduler.reschedule(TASK, NOW))
                .thenThrow(new TaskInstanceCurrentlyExecutingException(SyncScheduler.TASK, ID.toString()))
                .thenReturn(true);
        ScheduledExecution<Object> picked = mock(ScheduledExecution.class);
        when(picked.isPicked()).thenReturn(true);
        when(scheduler.getScheduledExecution(TASK)).thenReturn(Optional.of(picked));
        Connections connections = mock(Connections.class);
        AtomicBoolean again = new AtomicBoolean();
        when(connections.lookAgain(ID)).thenAnswer(call -> {
            again.set(true);
            return 1;
        });
        when(connections.takeLookAgain(ID)).thenAnswer(call -> again.getAndSet(false) ? 1 : 0);
        return new SyncScheduler(provider, connections, Clock.fixed(NOW, ZoneOffset.UTC));
    }

    @Test
    void newsDuringALookBringAnotherAtOnce() {
        SyncScheduler looks = underWay();
        List<Instant> planned = new ArrayList<>();
        looks.now(ID);
        looks.after(ID, NOW, NOW.plusSeconds(60), planned::add);
        looks.after(ID, NOW, NOW.plusSeconds(60), planned::add);
        assertThat(planned).containsExactly(NOW, NOW.plusSeconds(60));
    }

    @Test
    void newsInTheMomentOfPlanningAreNotLost() {
        SyncScheduler looks = underWay();
        looks.after(ID, NOW, NOW.plusSeconds(60), at -> looks.now(ID));
        verify(scheduler, times(2)).reschedule(TASK, NOW);
    }

    @Test
    void aPositionInACalendarNamesItsFile() {
        assertThat(CalendarPass.href("/a/b%23c.ics#2026-05-04T09:00:00Z")).isEqualTo("/a/b%23c.ics");
    }
}
