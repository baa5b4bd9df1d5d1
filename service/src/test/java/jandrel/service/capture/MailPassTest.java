package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyLong;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.ArgumentMatchers.isNull;
import static org.mockito.Mockito.inOrder;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.verifyNoInteractions;
import static org.mockito.Mockito.when;

import jandrel.core.item.MailItem;
import jandrel.formats.mail.Phones;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Message;
import jandrel.sources.Mailbox.Run;
import jandrel.store.capture.CursorMove;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Lateness;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Positions.KeywordChange;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.kernel.Outbox;
import jandrel.store.policy.Policies;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.mockito.ArgumentCaptor;
import org.mockito.InOrder;

/** The edges of a pass that a real server seldom shows; the way itself is tested against Dovecot. */
class MailPassTest {
    private static final Instant SINCE = Instant.parse("2026-01-01T00:00:00Z");
    private final Connections connections = mock();
    private final Intake intake = mock();
    private final Positions positions = mock();
    private final Mailbox mailbox = mock();
    private final Policies policies = mock();
    private final Lateness lateness = mock();
    private final MailPass pass = new MailPass(
            connections,
            intake,
            positions,
            new FolderReconciler(intake, positions),
            mock(),
            policies,
            new Phones(""),
            lateness);
    private final Connection connection = Connection.fresh(
            UUID.randomUUID(), UUID.randomUUID(), UUID.randomUUID(), "a", new byte[1], SINCE, "capturing");

    @BeforeEach
    void oneFolder() {
        when(mailbox.folders()).thenReturn(List.of(new Folder("INBOX", "inbox", Mailbox.Role.INBOX)));
        when(mailbox.fetch(anyString(), any()))
                .thenAnswer(call -> call.<Collection<Long>>getArgument(1).stream()
                        .map(uid -> new Message(
                                uid,
                                SINCE,
                                ("From: a" + uid + "@x.example\r\n\r\nx").getBytes(StandardCharsets.UTF_8),
                                null,
                                Set.of(),
                                false))
                        .toList());
        when(positions.toRefetch(anyInt(), anyInt())).thenReturn(List.of());
    }

    private void cursor(String cursor, Extent extent, long... uids) {
        when(connections.sources(connection.id()))
                .thenReturn(List.of(new Source(
                        7,
                        connection.id(),
                        "folder",
                        "INBOX",
                        "inbox",
                        cursor,
                        null,
                        true,
                        "inbox",
                        false,
                        "",
                        false,
                        0,
                        0,
                        new String[0],
                        false,
                        false)));
        when(mailbox.extent("INBOX")).thenReturn(extent);
        when(mailbox.uids(eq("INBOX"), anyLong(), any())).thenReturn(uids);
    }

    /** What was there before it was connected, or under other numbers, did not arrive now. */
    @ParameterizedTest
    @CsvSource({"5/11/9/40, 1", "'', 0", "6/11/9/40, 0"})
    void onlyWhatArrivesSaysHowLateItIs(String before, int times) {
        cursor(before, new Extent(5, 13, 10, 40), 11, 12);
        pass.over(mailbox, connection);
        verify(lateness, org.mockito.Mockito.times(times)).arrived(List.of(SINCE, SINCE));
    }

    @Test
    void whereNothingIsNewOneRequestIsEnoughAndNothingIsWritten() {
        cursor("5/11/9/40", new Extent(5, 11, 9, 40));
        pass.over(mailbox, connection);
        verify(mailbox, never()).uids(anyString(), anyLong(), any());
        verify(mailbox, never()).fetch(anyString(), any());
        verifyNoInteractions(intake);
    }

    @Test
    void theCursorMovesBatchByBatchAndEndsAtTheServersNextNumber() {
        long[] uids = java.util.stream.LongStream.rangeClosed(1, 510).toArray();
        cursor("", new Extent(5, 700, 510, 40), uids);
        pass.over(mailbox, connection);
        InOrder order = inOrder(intake);
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "", "5/501", null)));
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/501", "5/511", null)));
        order.verify(intake).take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/511", "5/700", null)));
        order.verify(intake).take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/700", "5/700/510/40", null)));
    }

    @Test
    @SuppressWarnings("unchecked")
    void afterTheServerNumberedAnewAllIsReadAgainAndTheOldPlacesAreForgotten() {
        cursor("5/11/9/40", new Extent(6, 3, 2, 40), 1, 2);
        when(positions.all(7)).thenReturn(List.of("5/9", "6/1", "6/2"));
        pass.over(mailbox, connection);
        ArgumentCaptor<List<FetchedItem>> seen = ArgumentCaptor.forClass(List.class);
        InOrder order = inOrder(intake);
        order.verify(intake).prepare(any(), seen.capture());
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/11/9/40", "6/3", null)));
        assertThat(seen.getValue()).extracting(FetchedItem::position).containsExactly("6/1", "6/2");
        assertThat(seen.getValue().get(0).item()).isInstanceOf(MailItem.class);
        verify(positions).forget(7, List.of("5/9"));
    }

    @Test
    void anEmptyFolderNumberedAnewBeginsAtItsOwnNumbers() {
        cursor("5/900/0/40", new Extent(6, 3, 0, 41));
        when(positions.all(7)).thenReturn(List.of());
        pass.over(mailbox, connection);
        verify(intake).take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/900/0/40", "6/3", null)));
    }

    @Test
    void whatAServerKeepsAccountOfHasGoneIsTakenAsGone() {
        cursor("5/11/9/40", new Extent(5, 11, 7, 43));
        when(mailbox.goneSince("INBOX", 5, 40)).thenReturn(Optional.of(List.of(new Run(3, 4))));
        pass.over(mailbox, connection);
        verify(intake).take(any(), eq(List.of()), eq(List.of("5/3", "5/4")), isNull());
        verify(intake).take(any(), any(), any(), eq(new CursorMove(7, "5/11/9/40", "5/11/7/43", null)));
    }

    @Test
    void whereNothingIsKeptAccountOfThePositionsAreWalkedWhenTheNumbersDoNotFit() {
        cursor("5/11/9/0", new Extent(5, 11, 8, 0));
        when(positions.page(eq(7), eq("5/"), eq(""), anyInt())).thenReturn(List.of("5/3", "5/4"));
        when(mailbox.existing("INBOX", List.of(3L, 4L))).thenReturn(Set.of(4L));
        pass.over(mailbox, connection);
        verify(intake).take(any(), eq(List.of()), eq(List.of("5/3")), isNull());
    }

    @Test
    void aServerWithoutAccountIsNotWalkedWhileItsNumbersFit() {
        cursor("5/11/9/0", new Extent(5, 11, 9, 0));
        pass.over(mailbox, connection);
        verify(positions, never()).page(anyInt(), any(), any(), anyInt());
        verify(intake, never()).take(any(), any(), any(), any());
    }

    @Test
    void aFolderUnderAnotherNameKeepsItsPlace() {
        cursor("5/11/9/40", new Extent(5, 11, 9, 40));
        when(mailbox.folders()).thenReturn(List.of(new Folder("Deals", "Deals", Mailbox.Role.OTHER)));
        when(mailbox.extent("Deals")).thenReturn(new Extent(5, 11, 9, 40));
        pass.over(mailbox, connection);
        verify(connections).renamed(7, "Deals", "Deals");
        verify(connections, never()).addFolder(any(), any(), any(), any(), anyBoolean());
    }

    @Test
    void whatIsWantedAgainButHasGoneIsLeftInPeace() {
        cursor("5/11/9/40", new Extent(5, 11, 9, 40));
        when(positions.toRefetch(anyInt(), anyInt())).thenReturn(List.of("5/3", "4/1"));
        pass.over(mailbox, connection);
        verify(mailbox).fetch("INBOX", List.of(3L));
        verify(positions).cannotRefetch(7, java.util.Set.of("4/1"));
    }

    @Test
    void oldNumbersAreForgottenThoughALookWasCutOffBeforeThat() {
        cursor("9/4", new Extent(9, 4, 3, 0));
        when(positions.all(7)).thenReturn(List.of("8/1", "9/1", "8/2"));
        pass.over(mailbox, connection);
        verify(positions).forget(7, List.of("8/1", "8/2"));
    }

    @Test
    void noKeywordIsPutToAMessageOfAnotherNumbering() {
        cursor("9/4/3/0", new Extent(9, 4, 3, 0));
        when(positions.keywordsEver()).thenReturn(List.of("logged"));
        when(positions.keywordChanges(eq(7), anyInt())).thenReturn(List.of(due(1, "8/1"), due(2, "9/2")));
        pass.over(mailbox, connection);
        verify(mailbox).keyword("INBOX", List.of(2L), "logged", true);
        verify(positions).keywordsSet(List.of(due(2, "9/2")));
    }

    private static KeywordChange due(long id, String position) {
        Outbox.Entry entry = new Outbox.Entry(id, Outbox.Kind.KEYWORD, "7", new UUID(0, id), 1, "", 0);
        return new KeywordChange(entry, position, true, "logged");
    }
}
