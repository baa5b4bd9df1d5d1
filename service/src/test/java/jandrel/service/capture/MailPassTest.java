package jandrel.service.capture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
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
import jandrel.sources.SourceTrouble;
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
            policies,
            new MailLots(intake, mock(), new Phones(""), lateness));
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
        when(mailbox.enter(any())).thenCallRealMethod();
    }

    private void cursor(String cursor, Extent extent, long... uids) {
        when(connections.sources(connection.id())).thenReturn(List.of(source(7, "INBOX", cursor)));
        when(mailbox.extent("INBOX")).thenReturn(extent);
        when(mailbox.uids(eq("INBOX"), anyLong(), any())).thenReturn(uids);
    }

    private Source source(int id, String name, String cursor) {
        return new Source(
                id,
                connection.id(),
                "folder",
                name,
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
                false,
                0);
    }

    /** What one folder brought is compared and kept, though the next one cannot be read. */
    @Test
    void aFolderThatFailsLeavesTheOneBeforeItSettled() {
        cursor("5/11/9/40", new Extent(5, 11, 8, 41));
        when(mailbox.folders())
                .thenReturn(List.of(
                        new Folder("INBOX", "inbox", Mailbox.Role.INBOX),
                        new Folder("Sick", "Sick", Mailbox.Role.OTHER)));
        when(connections.sources(connection.id()))
                .thenReturn(List.of(source(7, "INBOX", "5/11/9/40"), source(8, "Sick", "")));
        when(mailbox.extent("Sick")).thenThrow(new SourceTrouble(SourceTrouble.Kind.BROKEN, "it cannot be opened"));
        when(mailbox.goneSince("INBOX", 5, 40)).thenReturn(Optional.of(List.of(new Run(3, 3))));
        assertThatThrownBy(() -> pass.over(mailbox, connection)).isInstanceOf(SourceTrouble.class);
        verify(intake).take(any(), eq(List.of()), eq(List.of("5/3")), isNull());
        verify(intake).take(any(), any(), any(), eq(new CursorMove(7, "5/11/9/40", "5/11/8/41", null)));
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
    void whatArrivedMovesTheCursorLotByLotToTheServersNextNumber() {
        long[] uids = java.util.stream.LongStream.rangeClosed(11, 520).toArray();
        cursor("5/11/10/30", new Extent(5, 700, 520, 40), uids);
        when(mailbox.count("INBOX", 11, 699)).thenReturn(510L);
        pass.over(mailbox, connection);
        InOrder order = inOrder(intake);
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/11/10/30", "5/511/10/30", null)));
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/511/10/30", "5/521/10/30", null)));
        order.verify(intake)
                .take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/521/10/30", "5/700/10/30", null)));
        order.verify(intake)
                .take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/700/10/30", "5/700/520/40", null)));
    }

    /** The newest hundred soon, then lots of what is older; the cursor says at each what is left below. */
    @Test
    void aFirstReadBeginsWithTheNewest() {
        long[] uids = java.util.stream.LongStream.rangeClosed(1, 700).toArray();
        cursor("", new Extent(5, 800, 700, 40), uids);
        pass.over(mailbox, connection);
        InOrder order = inOrder(intake);
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "", "5/800/-1/0/651", null, 650)));
        order.verify(intake)
                .takePrepared(any(), any(), eq(new CursorMove(7, "5/800/-1/0/651", "5/800/-1/0/601", null, 600)));
        order.verify(intake)
                .takePrepared(any(), any(), eq(new CursorMove(7, "5/800/-1/0/601", "5/800/-1/0/101", null, 100)));
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/800/-1/0/101", "5/800/-1/0/1", null)));
        order.verify(intake).take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/800/-1/0/1", "5/800", null)));
        order.verify(intake).take(any(), eq(List.of()), any(), eq(new CursorMove(7, "5/800", "5/800/700/40", null)));
        ArgumentCaptor<Collection<Long>> fetched = ArgumentCaptor.captor();
        verify(mailbox, org.mockito.Mockito.times(4)).fetch(eq("INBOX"), fetched.capture());
        assertThat(fetched.getAllValues().get(0)).hasSize(50).startsWith(700L).endsWith(651L);
    }

    /** Only the newest are looked for at first; that there are few of them, or none, hides nothing. */
    @Test
    void whereTheNewestNumbersAreSparseAllAreAskedForAtOnce() {
        cursor("", new Extent(5, 10_000, 3, 40));
        when(mailbox.uids(eq("INBOX"), eq(9_600L), any())).thenReturn(new long[] {9_990});
        when(mailbox.uids(eq("INBOX"), eq(1L), any())).thenReturn(new long[] {4, 5, 9_990});
        pass.over(mailbox, connection);
        verify(mailbox).fetch("INBOX", List.of(9_990L, 5L, 4L));
    }

    /** What arrives while the older is being read goes ahead of it, and counts as arriving. */
    @Test
    void whatArrivesMeanwhileGoesAheadOfTheOlder() {
        long[] uids = java.util.stream.LongStream.rangeClosed(1, 150).toArray();
        cursor("", new Extent(5, 151, 150, 40), uids);
        when(mailbox.extent("INBOX")).thenReturn(new Extent(5, 151, 150, 40), new Extent(5, 153, 152, 41));
        when(mailbox.uids(eq("INBOX"), eq(151L), any())).thenReturn(new long[] {151, 152});
        when(mailbox.uids(eq("INBOX"), eq(1L), any())).thenReturn(uids);
        pass.over(mailbox, connection);
        ArgumentCaptor<Collection<Long>> fetched = ArgumentCaptor.captor();
        verify(mailbox, org.mockito.Mockito.times(4)).fetch(eq("INBOX"), fetched.capture());
        assertThat(fetched.getAllValues().get(2)).containsExactly(151L, 152L);
        assertThat(fetched.getAllValues().get(3)).hasSize(50).startsWith(50L);
        verify(lateness).arrived(List.of(SINCE, SINCE));
    }

    /** Whoever was stopped goes on at both ends. */
    @Test
    void aFirstReadThatWasCutOffGoesOnAtBothEnds() {
        cursor("5/100/-1/0/40", new Extent(5, 102, 90, 40));
        when(mailbox.uids(eq("INBOX"), eq(100L), any())).thenReturn(new long[] {100, 101});
        when(mailbox.uids(eq("INBOX"), eq(1L), any())).thenReturn(new long[] {38, 39, 40, 41, 100, 101});
        pass.over(mailbox, connection);
        InOrder order = inOrder(mailbox);
        order.verify(mailbox).fetch("INBOX", List.of(100L, 101L));
        order.verify(mailbox).fetch("INBOX", List.of(39L, 38L));
        order.verify(mailbox, never()).fetch(any(), any());
    }

    /** Numbered anew in the middle: nothing of the old numbers is compared, and the next look begins again. */
    @Test
    void aFolderThatIsNumberedAnewMeanwhileIsLeftForTheNextLook() {
        long[] uids = java.util.stream.LongStream.rangeClosed(1, 150).toArray();
        cursor("", new Extent(5, 151, 150, 40), uids);
        when(mailbox.extent("INBOX")).thenReturn(new Extent(5, 151, 150, 40), new Extent(6, 3, 2, 41));
        pass.over(mailbox, connection);
        verify(positions, never()).all(anyInt());
        verify(intake, never())
                .take(any(), any(), any(), eq(new CursorMove(7, "5/151/-1/0/51", "5/151/2/41/51", null)));
    }

    /** A server that says too low what comes next hides nothing. */
    @Test
    void whatIsNumberedHigherThanTheServerSaysIsReadAsWell() {
        cursor("", new Extent(5, 1, 2, 40), 8, 9);
        pass.over(mailbox, connection);
        verify(mailbox).fetch("INBOX", List.of(9L, 8L));
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
        order.verify(intake).takePrepared(any(), any(), eq(new CursorMove(7, "5/11/9/40", "6/3/-1/0/1", null)));
        assertThat(seen.getValue()).extracting(FetchedItem::position).containsExactly("6/2", "6/1");
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
