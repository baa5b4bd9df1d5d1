package jandrel.service.notices;

import jandrel.api.NoticeApi.NoticeInfo;
import jandrel.core.notice.NoticeChoice;
import jandrel.core.visibility.Viewer;
import jandrel.formats.mail.OneLine;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.connections.ServiceMail;
import jandrel.service.kernel.Loop;
import jandrel.service.kernel.Settings;
import jandrel.service.people.Viewers;
import jandrel.store.notices.NoticeStates;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Mails to whoever wants that what is due, when it is, and once a day what there is. Each goes once, whichever node sends it. */
@Component
class NoticeMail extends Loop {
    private static final Logger LOG = LoggerFactory.getLogger(NoticeMail.class);
    private static final long PAUSE_MILLIS = 15_000;
    private static final Duration FORGOTTEN = Duration.ofDays(120);
    private static final DateTimeFormatter CLOCK = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM", Locale.ENGLISH);
    private final Gathering gathering;
    private final NoticeStates states;
    private final ServiceMail letters;
    private final OutgoingMail post;
    private final Viewers viewers;
    private final People people;
    private final Settings settings;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final Semaphore wanted = new Semaphore(0);

    NoticeMail(
            Gathering gathering,
            NoticeStates states,
            ServiceMail letters,
            OutgoingMail post,
            Viewers viewers,
            People people,
            Settings settings,
            TransactionTemplate transactions,
            Clock clock) {
        super("notice-mail");
        this.gathering = gathering;
        this.states = states;
        this.letters = letters;
        this.post = post;
        this.viewers = viewers;
        this.people = people;
        this.settings = settings;
        this.transactions = transactions;
        this.clock = clock;
    }

    @Override
    protected void turn() throws InterruptedException {
        if (post.isThere()) {
            Instant now = clock.instant();
            states.mailed().forEach(signIn -> attempt(signIn, now));
            states.forget(now.minus(FORGOTTEN));
        }
        if (wanted.tryAcquire(PAUSE_MILLIS, TimeUnit.MILLISECONDS)) {
            wanted.drainPermits();
        }
    }

    /** What cannot be said to one is said to the others. */
    private void attempt(UUID signIn, Instant now) {
        try {
            viewers.of(signIn).ifPresent(viewer -> mail(signIn, viewer, now));
        } catch (RuntimeException failed) {
            LOG.error("what is due to sign-in {} could not be told by mail", signIn, failed);
        }
    }

    private void mail(UUID signIn, Viewer viewer, Instant now) {
        String to = people.mailTo(viewer.person());
        if (to.isEmpty()) {
            return;
        }
        NoticeChoice choice = gathering.choice(signIn);
        if (choice.mails()) {
            for (NoticeInfo due : gathering.due(viewer, choice, now)) {
                String when = due.allDay()
                        ? DAY.format(due.at().atZone(java.time.ZoneOffset.UTC))
                        : CLOCK.format(due.at().atZone(choice.zone()));
                once(signIn, due.key(), now, to, when + " " + due.title(), line(due, choice) + "\r\n");
            }
        }
        ZonedDateTime there = now.atZone(choice.zone());
        if (choice.daily() && !there.toLocalTime().isBefore(choice.dailyAt())) {
            transactions.executeWithoutResult(t -> {
                // looked through once a day, whether there is something to say or not
                if (states.claimMail(signIn, "daily:" + there.toLocalDate(), now) > 0) {
                    daily(signIn, viewer, choice, there, to);
                }
            });
        }
    }

    private void daily(UUID signIn, Viewer viewer, NoticeChoice choice, ZonedDateTime there, String to) {
        List<NoticeInfo> unread = gathering.of(signIn, viewer, there.toInstant()).notices().stream()
                .filter(n -> !n.read() && n.snoozedUntil() == null)
                .toList();
        if (!unread.isEmpty()) {
            letters.send(
                    to,
                    "Jandrel, " + DAY.format(there) + ": " + unread.size()
                            + (unread.size() == 1 ? " notice" : " notices"),
                    unread.stream().map(n -> line(n, choice)).collect(Collectors.joining("\r\n\r\n")) + "\r\n",
                    "sign-in " + signIn);
        }
    }

    private String line(NoticeInfo n, NoticeChoice choice) {
        String when = !n.kind().equals(Gathering.REMINDER)
                ? ""
                : n.allDay()
                        ? DAY.format(n.at().atZone(java.time.ZoneOffset.UTC)) + "  "
                        : DAY.format(n.at().atZone(choice.zone())) + " " + CLOCK.format(n.at().atZone(choice.zone()))
                                + "  ";
        return when + OneLine.plain(n.title())
                + (n.detail().isEmpty() ? "" : "\r\n" + OneLine.plain(n.detail())) + "\r\n" + settings.publicUrl()
                + n.path();
    }

    /** The claim and the letter stand together, or neither does. */
    private void once(UUID signIn, String key, Instant now, String to, String subject, String text) {
        transactions.executeWithoutResult(t -> {
            if (states.claimMail(signIn, key, now) > 0) {
                letters.send(to, subject, text, "sign-in " + signIn);
            }
        });
    }

    @Override
    protected void wake() {
        wanted.release();
    }
}
