package jandrel.service.meetings;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.InternetAddress;
import jakarta.mail.internet.MimeBodyPart;
import jakarta.mail.internet.MimeMessage;
import jakarta.mail.internet.MimeMultipart;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.InvitationDiff;
import jandrel.core.reconcile.InvitationDiff.Letter;
import jandrel.formats.calendar.Invitation;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.kernel.OutboxLoop;
import jandrel.service.kernel.Settings;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Quotas;
import jandrel.store.meetings.Invitations;
import jandrel.store.meetings.Invitations.Way;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.people.People;
import java.io.UnsupportedEncodingException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Asks guests to what is made here, and tells them of changes: by mail (RFC 6047), or not at all where their organiser's calendar server
 * does it (RFC 6638). A letter may go out twice when the service is killed in between; it is the same one, so a guest's program takes
 * it for one.
 */
@Component
public class InvitationSender extends OutboxLoop {
    private static final Logger LOG = LoggerFactory.getLogger(InvitationSender.class);
    private static final Duration UNTIL_KNOWN = Duration.ofSeconds(5);
    /** Well within the entry's lease; whoever has no letter by then gets it in the next round. */
    private static final Duration LONGEST_ROUND = Duration.ofMinutes(2);

    private static final Set<String> AT_WORK = Set.of("connecting", "capturing");
    private static final DateTimeFormatter WHEN =
            DateTimeFormatter.ofPattern("EEEE, d MMMM uuuu, HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEEE, d MMMM uuuu", Locale.ENGLISH);
    private final Outbox outbox;
    private final Invitations invitations;
    private final ManagedMeetings plans;
    private final People people;
    private final Connections connections;
    private final Outgoing outgoing;
    private final OutgoingMail post;
    private final Quotas quotas;
    private final Settings settings;
    private final Clock clock;

    InvitationSender(
            Outbox outbox,
            Invitations invitations,
            ManagedMeetings plans,
            People people,
            Connections connections,
            Outgoing outgoing,
            OutgoingMail post,
            Quotas quotas,
            Settings settings,
            Clock clock) {
        super("invitations", outbox, Outbox.Kind.INVITATION);
        this.outbox = outbox;
        this.invitations = invitations;
        this.plans = plans;
        this.people = people;
        this.connections = connections;
        this.outgoing = outgoing;
        this.post = post;
        this.quotas = quotas;
        this.settings = settings;
        this.clock = clock;
    }

    /** How guests of this person would be asked; nothing when nobody can ask them. */
    public Optional<Way> way(UUID owner, boolean out) {
        Optional<Boolean> schedules = schedules(out ? plans.outgoing(owner) : Optional.empty());
        if (schedules.orElse(false)) {
            return Optional.of(Way.SERVER);
        }
        return post.isThere() ? Optional.of(Way.MAIL) : Optional.empty();
    }

    private Optional<Boolean> schedules(Optional<Source> source) {
        return source.flatMap(s -> connections.schedules(s.id()));
    }

    /** Whether the calendar's server will say within a moment if it asks guests itself. One that is not let in, or away, will not. */
    private boolean isSoonKnown(Source calendar) {
        return connections.schedules(calendar.id()).isEmpty()
                && connections
                        .connection(calendar.connection())
                        .filter(c -> AT_WORK.contains(c.state()))
                        .isPresent();
    }

    /** The meeting is read after its entry was taken: what changes from here on is another generation of it. */
    @Override
    protected void deliver(Outbox.Entry entry) {
        ManagedMeeting plan = plans.one(entry.subject()).orElse(null);
        People.Person owner = plan == null ? null : people.one(plan.owner()).orElse(null);
        List<Letter> letters = plan == null
                ? List.of()
                : InvitationDiff.due(plan.details(), invitations.lastLetters(plan.id()), clock.instant());
        if (plan == null || owner == null || owner.writesAs().isEmpty() || letters.isEmpty()) {
            outbox.done(entry);
            return;
        }
        Optional<Source> calendar = outgoing.calendarOf(plan);
        if (calendar.filter(this::isSoonKnown).isPresent()) {
            outbox.later(entry, UNTIL_KNOWN);
            return;
        }
        boolean byServer = schedules(calendar).orElse(false);
        if (!byServer && !post.isThere()) {
            letters.forEach(l -> invitations.note(plan, l, Way.MAIL, "no mail server is set up to send by"));
            outbox.done(entry);
            return;
        }
        // one guest who cannot be reached keeps no other from their letter
        String trouble = "";
        Instant until = clock.instant().plus(LONGEST_ROUND);
        for (Letter letter : letters) {
            if (clock.instant().isAfter(until)) {
                trouble = "the mail server is slow: the next letters go out in another round";
                break;
            }
            String failed = sent(plan, letter, owner, byServer);
            trouble = failed.isEmpty() ? trouble : failed;
        }
        if (trouble.isEmpty()) {
            outbox.done(entry);
        } else {
            outbox.failed(entry, trouble);
        }
    }

    /** @return why it is to be tried again; empty when there is nothing more to do about it */
    private String sent(ManagedMeeting plan, Letter letter, People.Person owner, boolean byServer) {
        List<String> own = List.of(owner.addresses());
        if (byServer || own.contains(letter.guest())) {
            invitations.note(plan, letter, Way.SERVER, "");
            return "";
        }
        int most = settings.quotas().guestLetters();
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        if (quotas.take(Quotas.GUEST_LETTERS, owner.id(), today, most) == 0) {
            return owner.name() + "’s meetings have sent their " + most
                    + " letters of today to guests; the others go out tomorrow (jandrel.quotas.guest-letters)";
        }
        try {
            post.send(letter.guest(), owner.writesAs(), message -> write(message, plan, letter, owner));
            invitations.note(plan, letter, Way.MAIL, "");
            return "";
        } catch (OutgoingMail.NotSent failed) {
            LOG.warn("meeting {}: a guest could not be written to: {}", plan.id(), failed.getMessage());
            if (failed.forGood()) {
                invitations.note(plan, letter, Way.MAIL, String.valueOf(failed.getMessage()));
                return "";
            }
            quotas.giveBack(Quotas.GUEST_LETTERS, owner.id(), today);
            return String.valueOf(failed.getMessage());
        }
    }

    private void write(MimeMessage message, ManagedMeeting plan, Letter letter, People.Person owner)
            throws MessagingException {
        Invitation invitation = Invitation.of(
                letter,
                plan.uid(),
                plan.recurrence(),
                plan.sequence(),
                plan.stamp(),
                owner.writesAs(),
                owner.name(),
                plan.guestNames());
        try {
            message.setFrom(new InternetAddress(owner.writesAs(), owner.name(), "UTF-8"));
        } catch (UnsupportedEncodingException impossible) {
            throw new MessagingException("UTF-8 is always there", impossible);
        }
        // RFC 5322 §3.6.2: who really sends it
        message.setSender(post.own());
        message.setSubject(subject(letter), "UTF-8");
        MimeBodyPart words = new MimeBodyPart();
        words.setText(words(letter, owner), "UTF-8");
        MimeBodyPart object = new MimeBodyPart();
        object.setContent(
                new String(invitation.object(), StandardCharsets.UTF_8),
                "text/calendar; method=" + invitation.method() + "; component=VEVENT; charset=UTF-8");
        message.setContent(new MimeMultipart("alternative", words, object));
        // the same letter, should it have to be sent once more
        String id = plan.uid().replace('@', '.') + "." + plan.sequence() + "."
                + UUID.nameUUIDFromBytes((letter.guest() + letter.sort()).getBytes(StandardCharsets.UTF_8));
        message.setHeader("Message-ID", "<" + id.replaceAll("[^A-Za-z0-9.-]", "") + "@jandrel>");
    }

    private static String subject(Letter letter) {
        String title = letter.details().title();
        return switch (letter.sort()) {
            case ASKED -> "Invitation: " + title;
            case CHANGED -> "Changed: " + title;
            case WITHDRAWN -> "Cancelled: " + title;
        };
    }

    private static String words(Letter letter, People.Person owner) {
        Details d = letter.details();
        String what = switch (letter.sort()) {
            case ASKED -> owner.name() + " asks you to:";
            case CHANGED -> owner.name() + " has changed:";
            case WITHDRAWN -> owner.name() + " has cancelled, for you:";
        };
        StringBuilder text = new StringBuilder(what + "\r\n\r\n" + d.title() + "\r\n" + when(d.when()) + "\r\n");
        if (letter.sort() != InvitationDiff.Sort.WITHDRAWN) {
            text.append(d.place().isEmpty() ? "" : "Where: " + d.place() + "\r\n");
            text.append(d.online().isEmpty() ? "" : "Online: " + d.online() + "\r\n");
            text.append(d.text().isEmpty() ? "" : "\r\n" + d.text().replaceAll("\\R", "\r\n") + "\r\n");
        }
        return text.toString();
    }

    private static String when(Details.When when) {
        if (when.allDay()) {
            ZonedDateTime last = when.ends().atZone(ZoneOffset.UTC).minusDays(1);
            String first = DAY.format(when.begins().atZone(ZoneOffset.UTC));
            return Duration.between(when.begins(), when.ends()).toDays() > 1
                    ? first + " to " + DAY.format(last)
                    : first + ", all day";
        }
        ZoneId zone = zone(when.zone());
        ZonedDateTime begins = when.begins().atZone(zone);
        ZonedDateTime ends = when.ends().atZone(zone);
        boolean oneDay = begins.toLocalDate().equals(ends.toLocalDate());
        return WHEN.format(begins) + " to " + (oneDay ? ends.toLocalTime() : WHEN.format(ends)) + " ("
                + (zone.equals(ZoneOffset.UTC) ? "UTC" : zone.getId()) + ")";
    }

    private static ZoneId zone(String id) {
        try {
            return id.isEmpty() ? ZoneOffset.UTC : ZoneId.of(id);
        } catch (DateTimeException unknown) {
            return ZoneOffset.UTC;
        }
    }
}
