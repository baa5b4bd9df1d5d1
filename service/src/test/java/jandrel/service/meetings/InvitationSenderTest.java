package jandrel.service.meetings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jakarta.mail.Session;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeMessage;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.InvitationDiff.LastLetter;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.kernel.Settings;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Entry;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.Quotas;
import jandrel.store.meetings.Invitations;
import jandrel.store.meetings.Invitations.Way;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.people.People;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

class InvitationSenderTest {
    private static final Instant NOW = Instant.parse("2026-05-04T08:00:00Z");
    private static final UUID OWNER = UUID.randomUUID();
    private static final String ANN = "ann@skarvik.example";
    private static final String BOB = "bob@skarvik.example";
    private final Invitations invitations = mock();
    private final ManagedMeetings plans = mock();
    private final People people = mock();
    private final Connections connections = mock();
    private final Outgoing outgoing = mock();
    private final OutgoingMail post = mock();
    private final Outbox outbox = mock();
    private final Quotas quotas = mock();
    private final Settings settings = mock();
    private final Clock clock = mock();
    private final InvitationSender sender = new InvitationSender(
            outbox, invitations, plans, people, connections, outgoing, post, quotas, settings, clock);
    private final Details details = new Details(
            "Mooring plan",
            new When(NOW.plusSeconds(86_400), NOW.plusSeconds(90_000), false, "Europe/Oslo"),
            "Pier 3",
            "",
            "Bring the\nboat",
            true,
            Privacy.PUBLIC,
            Details.NONE,
            new TreeSet<>(Set.of(ANN, BOB)),
            new TreeMap<>(),
            false);
    private ManagedMeeting meeting = meeting(details);
    private final Entry entry = new Entry(1, Kind.INVITATION, meeting.id().toString(), meeting.id(), 1, "", 0);

    private static ManagedMeeting meeting(Details details) {
        UUID id = new UUID(7, 7);
        return new ManagedMeeting(
                id,
                UUID.randomUUID(),
                "uid@jandrel",
                null,
                OWNER,
                true,
                "Tobias",
                true,
                Making.template(
                        "uid@jandrel", Sort.MEETING, details, "tobias@corvane.example", "Tobias", Map.of(), NOW),
                details,
                2,
                NOW,
                false,
                null,
                "",
                false,
                "",
                true,
                1);
    }

    @BeforeEach
    void aMeetingWithTwoGuests() throws Exception {
        when(clock.instant()).thenReturn(NOW);
        when(plans.one(meeting.id())).thenAnswer(call -> Optional.of(meeting));
        when(people.one(OWNER))
                .thenReturn(Optional.of(new People.Person(
                        OWNER, "t", "Tobias", "", "rep", null, new String[] {"tobias@corvane.example"})));
        when(outgoing.calendarOf(any())).thenReturn(Optional.empty());
        when(invitations.lastLetters(any())).thenReturn(Map.of());
        when(post.isThere()).thenReturn(true);
        when(settings.quotas()).thenReturn(new Settings.Quotas(9, 9));
        when(quotas.take(any(), any(), any(), anyInt())).thenReturn(1);
        when(post.own()).thenReturn(new InternetAddress("jandrel@corvane.example"));
    }

    @Test
    void eachGuestGetsALetterAndThenTheEntryIsDone() throws Exception {
        sender.deliver(entry);
        ArgumentCaptor<OutgoingMail.Letter> letter = ArgumentCaptor.forClass(OutgoingMail.Letter.class);
        verify(post).send(eq(ANN), eq("tobias@corvane.example"), letter.capture());
        verify(post).send(eq(BOB), eq("tobias@corvane.example"), any());
        verify(outbox).done(entry);
        MimeMessage message = new MimeMessage(Session.getInstance(new Properties()));
        letter.getValue().fill(message);
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        message.saveChanges();
        message.writeTo(bytes);
        assertThat(bytes.toString(StandardCharsets.UTF_8))
                .contains(
                        "Invitation: Mooring plan",
                        "method=REQUEST",
                        "Tuesday, 5 May 2026, 10:00 to 11:00 (Europe/Oslo)");
        assertThat(message.getSender()).isEqualTo(new InternetAddress("jandrel@corvane.example"));
    }

    @Test
    void oneGuestWhoCannotBeReachedKeepsNoOtherFromTheirLetter() throws Exception {
        doThrow(new OutgoingMail.NotSent("451 later", false, new Exception()))
                .when(post)
                .send(eq(ANN), any(), any());
        sender.deliver(entry);
        verify(post).send(eq(BOB), any(), any());
        verify(invitations).note(eq(meeting), any(), eq(Way.MAIL), eq(""));
        verify(outbox).failed(entry, "451 later");
        verify(outbox, never()).done(any());
    }

    @Test
    void whatIsOverTheDaysLettersWaitsForTheNextDayAndSaysSo() throws Exception {
        when(quotas.take(Quotas.GUEST_LETTERS, OWNER, LocalDate.of(2026, 5, 4), 9))
                .thenReturn(1, 0);
        sender.deliver(entry);
        verify(post).send(eq(ANN), any(), any());
        verify(post, never()).send(eq(BOB), any(), any());
        verify(outbox)
                .failed(
                        entry,
                        "Tobias’s meetings have sent their 9 letters of today to guests; the others go out tomorrow"
                                + " (jandrel.quotas.guest-letters)");
    }

    @Test
    void aLetterThatDidNotGoOutDoesNotCount() throws Exception {
        doThrow(new OutgoingMail.NotSent("451 later", false, new Exception()))
                .when(post)
                .send(eq(ANN), any(), any());
        sender.deliver(entry);
        verify(quotas).giveBack(Quotas.GUEST_LETTERS, OWNER, LocalDate.of(2026, 5, 4));
    }

    @Test
    void aSlowServerDoesNotOutlastTheLease() throws Exception {
        org.mockito.Mockito.doAnswer(call -> {
                    when(clock.instant()).thenReturn(NOW.plusSeconds(150));
                    return null;
                })
                .when(post)
                .send(eq(ANN), any(), any());
        sender.deliver(entry);
        verify(post).send(eq(ANN), any(), any());
        verify(post, never()).send(eq(BOB), any(), any());
        verify(outbox).failed(eq(entry), anyString());
        verify(outbox, never()).done(any());
    }

    @Test
    void whoIsRefusedForGoodIsNotedAndTheEntryDone() throws Exception {
        doThrow(new OutgoingMail.NotSent("550 nobody", true, new Exception()))
                .when(post)
                .send(any(), any(), any());
        sender.deliver(entry);
        verify(invitations, org.mockito.Mockito.times(2)).note(eq(meeting), any(), eq(Way.MAIL), eq("550 nobody"));
        verify(outbox).done(entry);
    }

    @Test
    void whoHasTheLetterGetsNoOther() throws Exception {
        when(invitations.lastLetters(any()))
                .thenReturn(Map.of(ANN, new LastLetter(details, false), BOB, new LastLetter(details, false)));
        sender.deliver(entry);
        verify(post, never()).send(anyString(), anyString(), any());
        verify(outbox).done(entry);
    }

    @Test
    void aCancelledMeetingIsWithdrawnFromThoseWhoKnewOfIt() throws Exception {
        when(invitations.lastLetters(any())).thenReturn(Map.of(ANN, new LastLetter(details, false)));
        meeting = meeting(details.cancel());
        sender.deliver(entry);
        verify(post).send(eq(ANN), any(), any());
        verify(post, never()).send(eq(BOB), any(), any());
    }

    @Test
    void aMeetingThatIsGoneOrHasNoOwnerIsNobodysToAnnounce() {
        when(plans.one(any())).thenReturn(Optional.empty());
        assertThat(after()).isTrue();
        when(plans.one(any())).thenReturn(Optional.of(meeting));
        when(people.one(OWNER)).thenReturn(Optional.empty());
        assertThat(after()).isTrue();
    }

    /** Whether the entry is done and nothing was sent. */
    private boolean after() {
        try {
            sender.deliver(entry);
            verify(post, never()).send(anyString(), anyString(), any());
        } catch (OutgoingMail.NotSent failed) {
            throw new IllegalStateException(failed);
        }
        verify(outbox, org.mockito.Mockito.atLeastOnce()).done(entry);
        return true;
    }

    @Test
    void withoutAMailServerTheReasonIsNotedForEachGuest() throws Exception {
        when(post.isThere()).thenReturn(false);
        sender.deliver(entry);
        verify(invitations, org.mockito.Mockito.times(2))
                .note(eq(meeting), any(), eq(Way.MAIL), eq("no mail server is set up to send by"));
        verify(outbox).done(entry);
    }

    private Source calendar(Optional<Boolean> schedules, String state) {
        UUID connection = UUID.randomUUID();
        Source source = new Source(
                4,
                connection,
                "calendar",
                "/c/",
                "",
                "",
                null,
                true,
                "",
                true,
                "",
                true,
                0,
                0,
                new String[0],
                false,
                false,
                0);
        when(outgoing.calendarOf(any())).thenReturn(Optional.of(source));
        when(connections.schedules(4)).thenReturn(schedules);
        when(connections.connection(connection))
                .thenReturn(Optional.of(
                        Connections.Connection.fresh(connection, OWNER, UUID.randomUUID(), "t", null, NOW, state)));
        return source;
    }

    @Test
    void aServerThatSchedulesAsksThemItself() throws Exception {
        calendar(Optional.of(true), "capturing");
        sender.deliver(entry);
        verify(post, never()).send(anyString(), anyString(), any());
        verify(invitations, org.mockito.Mockito.times(2)).note(eq(meeting), any(), eq(Way.SERVER), eq(""));
        verify(outbox).done(entry);
    }

    @Test
    void untilItIsKnownWhetherTheServerSchedulesNothingGoesOut() throws Exception {
        calendar(Optional.empty(), "connecting");
        sender.deliver(entry);
        verify(post, never()).send(anyString(), anyString(), any());
        verify(outbox).later(eq(entry), any());
    }

    @Test
    void aServerThatLetsNobodyInIsNotWaitedFor() throws Exception {
        calendar(Optional.empty(), "needs-sign-in");
        sender.deliver(entry);
        verify(post).send(eq(ANN), any(), any());
        verify(outbox).done(entry);
    }
}
