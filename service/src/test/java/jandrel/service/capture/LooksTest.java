package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.reset;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import com.github.kagkarlsson.scheduler.ScheduledExecution;
import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.exceptions.TaskInstanceCurrentlyExecutingException;
import com.github.kagkarlsson.scheduler.task.TaskInstanceId;
import jandrel.store.Connections;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.ObjectProvider;

class LooksTest {
    private static final Instant NOW = Instant.parse("2026-05-04T12:00:00Z");

    @ParameterizedTest
    @CsvSource({
        "capturing, 0, PT30S",
        "needs-sign-in, 1, PT6H",
        "unreachable, 1, PT1M",
        "unreachable, 3, PT4M",
        "unreachable, 9, PT15M",
        "broken, 2147483647, PT15M"
    })
    void theLongerAServerFailsTheLongerItIsLeftAlone(String state, int failures, Duration wait) {
        assertThat(Looks.next(NOW, Duration.ofSeconds(30), state, failures)).isEqualTo(NOW.plus(wait));
    }

    private final SchedulerClient scheduler = mock(SchedulerClient.class);
    private final UUID id = UUID.randomUUID();

    @SuppressWarnings("unchecked")
    private Looks looks() {
        ObjectProvider<SchedulerClient> provider = mock(ObjectProvider.class);
        when(provider.getObject()).thenReturn(scheduler);
        return new Looks(provider, mock(Connections.class), Clock.fixed(NOW, ZoneOffset.UTC));
    }

    /** As the scheduler answers while a look runs, up to the moment in which the next one is planned. */
    private void underWay(boolean is) {
        TaskInstanceId task = TaskInstanceId.of(Looks.TASK, id.toString());
        if (is) {
            when(scheduler.reschedule(task, NOW))
                    .thenThrow(new TaskInstanceCurrentlyExecutingException(Looks.TASK, id.toString()));
            ScheduledExecution<Object> picked = mock(ScheduledExecution.class);
            when(picked.isPicked()).thenReturn(true);
            when(scheduler.getScheduledExecution(task)).thenReturn(Optional.of(picked));
        } else {
            reset(scheduler);
        }
    }

    @Test
    void newsDuringALookBringAnotherAtOnce() {
        Looks looks = looks();
        List<Instant> planned = new ArrayList<>();
        underWay(true);
        looks.now(id);
        looks.after(id, NOW, NOW.plusSeconds(60), planned::add);
        looks.after(id, NOW, NOW.plusSeconds(60), planned::add);
        assertThat(planned).containsExactly(NOW, NOW.plusSeconds(60));
    }

    @Test
    void newsInTheMomentOfPlanningAreNotLost() {
        Looks looks = looks();
        underWay(true);
        looks.after(id, NOW, NOW.plusSeconds(60), at -> {
            looks.now(id);
            underWay(false);
        });
        verify(scheduler).reschedule(TaskInstanceId.of(Looks.TASK, id.toString()), NOW);
    }

    @Test
    void aCursorIsReadBackAsItWasWritten() {
        assertThat(MailCursor.of("")).isEqualTo(new MailCursor(0, 1, -1, 0));
        assertThat(CalendarPass.href("/a/b%23c.ics#2026-05-04T09:00:00Z")).isEqualTo("/a/b%23c.ics");
        assertThat(MailCursor.of("12/4000000000")).isEqualTo(new MailCursor(12, 4_000_000_000L, -1, 0));
        assertThat(MailCursor.of("12/9/7/3")).isEqualTo(new MailCursor(12, 9, 7, 3));
        assertThat(MailCursor.of("12/9/7/3").read(12, 11)).hasToString("12/11/7/3");
        assertThat(MailCursor.of("12/9/7/3").read(13, 1)).hasToString("13/1");
    }
}
