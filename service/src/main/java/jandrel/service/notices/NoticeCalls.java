package jandrel.service.notices;

import jandrel.api.NoticeApi.NoticeChoiceInfo;
import jandrel.api.NoticeApi.NoticeInfo;
import jandrel.api.NoticeApi.NoticeMarks;
import jandrel.api.NoticeApi.NoticePage;
import jandrel.api.NoticeApi.NoticeSnooze;
import jandrel.core.notice.NoticeChoice;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.News;
import jandrel.store.notices.NoticeStates;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What concerns the asker, on whatever device they read it. */
@RestController
class NoticeCalls {
    private static final int MOST_KEYS = 2_000;
    private static final int LONGEST = (int) Duration.ofDays(28).toMinutes();
    private final Gathering gathering;
    private final NoticeStates states;
    private final OutgoingMail mail;
    private final People people;
    private final Clock clock;

    NoticeCalls(Gathering gathering, NoticeStates states, OutgoingMail mail, People people, Clock clock) {
        this.gathering = gathering;
        this.states = states;
        this.mail = mail;
        this.people = people;
        this.clock = clock;
    }

    @GetMapping("/api/notices")
    NoticePage all(@AuthenticationPrincipal SignedIn me) {
        return gathering.of(me.id(), me.viewer(), clock.instant());
    }

    /** Read, or unread again. */
    @PostMapping("/api/notices/read")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void read(@RequestBody NoticeMarks marks, @AuthenticationPrincipal SignedIn me) {
        if (marks.keys().size() > MOST_KEYS) {
            throw Refusal.bad("That is more than there can be", "Name at most " + MOST_KEYS + " notices at once.");
        }
        Instant now = clock.instant();
        mark(marks.keys(), marks.read() ? now : null, null, now, me);
    }

    /** Puts one off: it comes again then, if its cause is still there. */
    @PostMapping("/api/notices/snooze")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void snooze(@RequestBody NoticeSnooze wanted, @AuthenticationPrincipal SignedIn me) {
        if (wanted.minutes() < 1 || wanted.minutes() > LONGEST) {
            throw Refusal.bad("It cannot be put off for so long", "Give 1 minute to four weeks.");
        }
        Instant now = clock.instant();
        mark(List.of(wanted.key()), null, now.plus(wanted.minutes(), ChronoUnit.MINUTES), now, me);
    }

    /** Of what there is alone, so that nobody fills the table. */
    private void mark(List<String> keys, @Nullable Instant read, @Nullable Instant snoozed, Instant now, SignedIn me) {
        Set<String> there = gathering.of(me.id(), me.viewer(), now).notices().stream()
                .map(NoticeInfo::key)
                .collect(Collectors.toSet());
        String[] known = keys.stream().filter(there::contains).distinct().toArray(String[]::new);
        if (known.length > 0) {
            states.mark(me.id(), known, read, snoozed, now);
            announce(me);
        }
    }

    private void announce(SignedIn me) {
        states.announce(News.OF_SIGN_IN + me.id());
    }

    @GetMapping("/api/notices/choice")
    NoticeChoiceInfo choice(@AuthenticationPrincipal SignedIn me) {
        NoticeChoice c = gathering.choice(me.id());
        return new NoticeChoiceInfo(
                c.rings(),
                c.mails(),
                c.minutesBefore(),
                c.besideCalendar(),
                c.daily(),
                c.dailyAt().toString(),
                c.zone().getId(),
                mail.isThere() ? people.mailTo(me.person()) : "");
    }

    @PutMapping("/api/notices/choice")
    NoticeChoiceInfo choose(@RequestBody NoticeChoiceInfo wanted, @AuthenticationPrincipal SignedIn me) {
        if (wanted.minutesBefore() < NoticeChoice.NEVER || wanted.minutesBefore() > LONGEST) {
            throw Refusal.bad("That is no time before a meeting", "Give 0 minutes to four weeks, or -1 for never.");
        }
        states.choose(
                me.id(),
                NoticeStates.Chosen.of(new NoticeChoice(
                        wanted.rings(),
                        wanted.mails(),
                        wanted.minutesBefore(),
                        wanted.besideCalendar(),
                        wanted.daily(),
                        time(wanted.dailyAt()),
                        NamedZone.called(wanted.zone()))));
        announce(me);
        return choice(me);
    }

    private static LocalTime time(String text) {
        try {
            return LocalTime.parse(text).truncatedTo(ChronoUnit.MINUTES);
        } catch (DateTimeException none) {
            throw Refusal.bad("“" + text + "” is no time of day", "Write it as 07:30.");
        }
    }
}
