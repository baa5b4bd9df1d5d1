package jandrel.service.measures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.connections.ServiceMail;
import jandrel.service.kernel.Settings;
import jandrel.service.people.Viewers;
import jandrel.store.measures.KeptFigures;
import jandrel.store.measures.KeptFigures.Kept;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.mockito.ArgumentCaptor;
import org.springframework.transaction.TransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

class WeeklyFiguresTest {
    private static final UUID SIGN_IN = new UUID(1, 1);
    private static final UUID MAREN = new UUID(2, 1);
    /** A Monday, at eight. */
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");

    private final KeptFigures kept = mock();
    private final MeasureAnswers answers = mock();
    private final Viewers viewers = mock();
    private final People people = mock();
    private final ServiceMail letters = mock();
    private final OutgoingMail post = mock();
    private final Settings settings = mock();
    private final TransactionTemplate transactions = mock();
    private final WeeklyFigures weekly = new WeeklyFigures(
            kept, answers, viewers, people, letters, post, settings, transactions, Clock.fixed(NOW, ZoneOffset.UTC));

    @BeforeEach
    void aCompanyThatSendsMail() {
        when(post.isThere()).thenReturn(true);
        when(settings.publicUrl()).thenReturn("https://jandrel.corvane.example");
        when(viewers.of(SIGN_IN)).thenReturn(Optional.of(new Viewer(Role.MANAGER, MAREN, Viewer.team(""))));
        when(people.mailTo(MAREN)).thenReturn("maren@corvane.example");
        when(kept.claim(any(), any())).thenReturn(1);
        doAnswer(call -> {
                    call.<Consumer<TransactionStatus>>getArgument(0).accept(mock(TransactionStatus.class));
                    return null;
                })
                .when(transactions)
                .executeWithoutResult(any());
        when(answers.sheet(any(), any())).thenReturn(sheet());
        // what wakes it lets one turn end at once
        weekly.wake();
    }

    private static MeasureLine line(String label, @Nullable Double median) {
        return new MeasureLine(label, label, 3, List.of(new MeasureCell(3.0, 3), new MeasureCell(median, 3)));
    }

    private static MeasureSheet sheet() {
        return new MeasureSheet(
                new MeasureInfo("reply-times", "", "", "", "", "", List.of()),
                "team",
                "2026-01-01",
                "2026-05-04",
                "UTC",
                "3 messages wanted an answer.",
                "hours, median",
                List.of(new MeasureColumn("messages", "count"), new MeasureColumn("hours, median", "hours")),
                List.of(
                        line("Baltic", 4.0),
                        line("A team\r\nwith a very long name that goes on and on", 2.0),
                        line("None", null)),
                line("All", 3.25),
                null,
                5,
                0,
                "");
    }

    private static Kept kept(@Nullable String told) {
        return new Kept(
                new UUID(3, 1),
                SIGN_IN,
                "Baltic waits",
                "reply-times",
                "{\"by\":\"team\",\"team\":\"Baltic & more\",\"zone\":\"Europe/Oslo\"}",
                "Europe/Oslo",
                true,
                told == null ? null : LocalDate.parse(told));
    }

    @Test
    void aSelectionGoesOutOnceAMondayWithItsFiguresAndASmallPlot() throws Exception {
        when(kept.weekly()).thenReturn(List.of(kept("2026-04-27")));
        weekly.turn();
        ArgumentCaptor<String> text = ArgumentCaptor.forClass(String.class);
        verify(letters)
                .send(
                        eq("maren@corvane.example"),
                        eq("Jandrel: Baltic waits"),
                        text.capture(),
                        eq("kept figures " + new UUID(3, 1)));
        verify(kept).claim(new UUID(3, 1), LocalDate.parse("2026-05-04"));
        assertThat(text.getValue().lines())
                .contains("3 messages wanted an answer.", "By team: hours, median")
                .contains("Baltic                                   4.0  ████████████████████")
                .contains("None")
                .contains("All                                      3.3")
                .anyMatch(l -> l.startsWith("A team with a very") && l.endsWith("2.0  ██████████"))
                .contains("https://jandrel.corvane.example/measures?measure=reply-times&by=team&team=Baltic+%26+more");
    }

    @ParameterizedTest
    @CsvSource({"2026-05-04", "2026-05-11"})
    void notTwiceForOneMonday(String told) throws Exception {
        when(kept.weekly()).thenReturn(List.of(kept(told)));
        weekly.turn();
        verify(letters, never()).send(anyString(), anyString(), anyString(), anyString());
    }

    @Test
    void notByTwoNodes() throws Exception {
        when(kept.weekly()).thenReturn(List.of(kept("2026-04-27")));
        when(kept.claim(any(), any())).thenReturn(0);
        weekly.turn();
        verify(letters, never()).send(anyString(), anyString(), anyString(), anyString());
    }

    @Test
    void whatCannotBeSaidToOneIsSaidToTheOthers() throws Exception {
        Kept other = new Kept(
                new UUID(3, 2), new UUID(1, 2), "Odd", "luck", "{}", "UTC", true, LocalDate.parse("2026-04-27"));
        when(viewers.of(new UUID(1, 2))).thenReturn(Optional.of(new Viewer(Role.MANAGER, MAREN, Viewer.team(""))));
        when(kept.weekly()).thenReturn(List.of(other, kept("2026-04-27")));
        weekly.turn();
        verify(letters).send(anyString(), eq("Jandrel: Baltic waits"), anyString(), anyString());
    }

    @ParameterizedTest
    @CsvSource({
        "2026-05-04T04:59:59Z, 2026-04-27",
        "2026-05-04T05:00:00Z, 2026-05-04",
        "2026-05-10T23:00:00Z, 2026-05-04",
        // the clocks of Oslo went back on Sunday: seven is six UTC again
        "2026-10-26T05:59:59Z, 2026-10-19",
        "2026-10-26T06:00:00Z, 2026-10-26"
    })
    void theLastMondayIsThatOfItsZoneFromSevenOn(Instant now, LocalDate monday) {
        assertThat(MondayMornings.last(now, ZoneId.of("Europe/Oslo"))).isEqualTo(monday);
    }
}
