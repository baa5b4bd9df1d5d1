package jandrel.service.notices;

import jandrel.api.NoticeApi.NoticeInfo;
import jandrel.api.NoticeApi.NoticePage;
import jandrel.core.decide.Rule;
import jandrel.core.item.MeetingItem;
import jandrel.core.notice.NoticeChoice;
import jandrel.core.notice.Reminder;
import jandrel.core.policy.Policy;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.meetings.Meetings;
import jandrel.store.meetings.Meetings.Meeting;
import jandrel.store.notices.Causes;
import jandrel.store.notices.NoticeStates;
import jandrel.store.people.SignInTokens;
import jandrel.store.policy.Policies;
import jandrel.store.timeline.Timelines;
import jandrel.store.triage.Strangers;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What there is to tell somebody of, from its causes as they are now. */
@Component
class Gathering {
    static final String REMINDER = "reminder";
    /** Whoever waits longer for a reminder asks again before. */
    private static final Duration SOON = Duration.ofDays(1);

    private static final Duration AHEAD = Duration.ofDays(28);
    private static final Duration TOKENS_AHEAD = Duration.ofDays(14);
    private static final Duration CONFLICTS = Duration.ofDays(90);
    private static final int MOST_MEETINGS = 1_000;
    private static final int MOST_CONNECTIONS = 50;
    private final Causes causes;
    private final NoticeStates states;
    private final Meetings meetings;
    private final Strangers strangers;
    private final Policies policies;
    private final SignInTokens tokens;

    Gathering(
            Causes causes,
            NoticeStates states,
            Meetings meetings,
            Strangers strangers,
            Policies policies,
            SignInTokens tokens) {
        this.tokens = tokens;
        this.causes = causes;
        this.states = states;
        this.meetings = meetings;
        this.strangers = strangers;
        this.policies = policies;
    }

    /** A cause, before anybody read of it. */
    private record Cause(
            String key, String kind, String title, String detail, Instant at, boolean allDay, String path) {}

    NoticeChoice choice(UUID signIn) {
        return states.chosen(signIn).map(NoticeStates.Chosen::choice).orElse(NoticeChoice.USUAL);
    }

    /** All of a sign-in's: reminders first, then the newest. */
    NoticePage of(UUID signIn, Viewer viewer, Instant now) {
        NoticeChoice choice = choice(signIn);
        List<Cause> found = new ArrayList<>();
        List<Instant> later = new ArrayList<>();
        found.addAll(reminders(viewer, choice, now, later));
        List<Cause> others = new ArrayList<>(connections(viewer));
        others.addAll(tokens(signIn, viewer, now));
        if (viewer.person() != null) {
            others.addAll(heldBack(viewer.person(), now));
            others.addAll(conflicts(viewer.person(), now));
            others.addAll(books(viewer.person()));
            strangers(viewer).ifPresent(others::add);
        }
        others.sort(Comparator.comparing(Cause::at).reversed().thenComparing(Cause::key));
        found.addAll(others);
        Map<String, NoticeStates.State> known =
                states.states(signIn, found.stream().map(Cause::key).toArray(String[]::new)).stream()
                        .collect(Collectors.toMap(NoticeStates.State::key, Function.identity()));
        List<NoticeInfo> shown = found.stream()
                .map(c -> shown(c, known.get(c.key()), choice, now))
                .toList();
        shown.stream().map(NoticeInfo::snoozedUntil).forEach(at -> {
            if (at != null) {
                later.add(at);
            }
        });
        int unread = (int) shown.stream()
                .filter(n -> !n.read() && n.snoozedUntil() == null)
                .count();
        return new NoticePage(
                shown, unread, later.stream().min(Comparator.naturalOrder()).orElse(null));
    }

    private static NoticeInfo shown(Cause c, NoticeStates.@Nullable State state, NoticeChoice choice, Instant now) {
        boolean read = state != null && state.readAt() != null;
        Instant until = state == null ? null : state.snoozedUntil();
        Instant snoozed = until != null && until.isAfter(now) ? until : null;
        boolean rings = c.kind().equals(REMINDER) && choice.rings() && !read && snoozed == null;
        return new NoticeInfo(
                c.key(), c.kind(), c.title(), c.detail(), c.at(), c.allDay(), c.path(), read, snoozed, rings);
    }

    /** The reminders that are due, whether somebody read of them or not. */
    List<NoticeInfo> due(Viewer viewer, NoticeChoice choice, Instant now) {
        return reminders(viewer, choice, now, new ArrayList<>()).stream()
                .map(c -> shown(c, null, choice, now))
                .toList();
    }

    /** @param later gets the times of those that are not due yet */
    private List<Cause> reminders(Viewer viewer, NoticeChoice choice, Instant now, List<Instant> later) {
        UUID person = viewer.person();
        if (person == null) {
            return List.of();
        }
        Policy policy = policies.of(Set.of(person)).get(person);
        boolean policyRings = policy != null && policy.keeping().rings();
        List<Cause> due = new ArrayList<>();
        Duration soon = SOON.plusMinutes(Math.max(0, choice.minutesBefore()));
        for (Causes.Upcoming u :
                causes.upcoming(person, Timelines.ids(viewer), now, now.plus(soon), now.plus(AHEAD), MOST_MEETINGS)) {
            Reminder reminder = new Reminder(
                    u.begins(),
                    u.ends(),
                    u.allDay(),
                    u.minutes() == null ? NoticeChoice.NEVER : u.minutes(),
                    u.inCalendar() && (policyRings || !u.oursToRing()));
            if (reminder.isDue(choice, now)) {
                meetings.one(u.id(), viewer).flatMap(Gathering::toAttend).ifPresent(m -> due.add(cause(u, m)));
            } else {
                reminder.due(choice).filter(at -> at.isAfter(now)).ifPresent(later::add);
            }
        }
        return due;
    }

    /** What somebody reads in full, that takes place, and of which nobody has said how it went. */
    private static Optional<Meeting> toAttend(Meeting meeting) {
        return Optional.of(meeting)
                .filter(m -> m.visibility() == Visibility.FULL && m.facts() != null)
                .filter(m -> m.outcome().isEmpty() && !m.marks().contains(Rule.CANCELLED_MARKED.name()));
    }

    private static Cause cause(Causes.Upcoming u, Meeting m) {
        MeetingItem facts = Objects.requireNonNull(m.facts());
        String where = List.of(m.account(), facts.place()).stream()
                .filter(s -> !s.isEmpty())
                .distinct()
                .collect(Collectors.joining(" · "));
        // a meeting that is moved is reminded of anew
        return new Cause(
                REMINDER + ":" + u.id() + ":" + u.begins().getEpochSecond(),
                REMINDER,
                facts.subject().isEmpty() ? "(no title)" : facts.subject(),
                where,
                u.begins(),
                u.allDay(),
                "/calendar?view=agenda&open=" + u.id());
    }

    private List<Cause> connections(Viewer viewer) {
        List<Cause> found = new ArrayList<>();
        if (viewer.person() != null) {
            for (Causes.Trouble t : causes.trouble(viewer.person(), MOST_CONNECTIONS)) {
                found.add(new Cause(
                        "connection:" + t.id() + ":" + t.state() + ":"
                                + t.since().getEpochSecond(),
                        "connection",
                        said(t.state()) + ": " + t.account(),
                        t.detail(),
                        t.since(),
                        false,
                        "/connections"));
            }
        }
        if (viewer.role() == Role.ADMINISTRATOR) {
            List<Causes.Trouble> all = causes.trouble(null, MOST_CONNECTIONS).stream()
                    .filter(t -> found.stream().noneMatch(c -> c.key().startsWith("connection:" + t.id())))
                    .toList();
            if (!all.isEmpty()) {
                Causes.Trouble newest = all.get(0);
                // whoever comes to it makes it new again
                found.add(new Cause(
                        "connections:" + newest.id() + ":" + newest.since().getEpochSecond(),
                        "connection",
                        all.size() == 1
                                ? said(newest.state()) + ": " + newest.account()
                                : (all.size() < MOST_CONNECTIONS ? all.size() : MOST_CONNECTIONS + " or more")
                                        + " connections wait for somebody",
                        all.size() == 1 ? newest.detail() : "The newest is " + newest.account() + ".",
                        newest.since(),
                        false,
                        "/connections"));
            }
        }
        return found;
    }

    private static String said(String state) {
        return switch (state) {
            case "refused" -> "Waits for an administrator";
            case "waiting-for-consent" -> "Waits for consent";
            default -> "Has to be signed in again";
        };
    }

    private List<Cause> heldBack(UUID person, Instant now) {
        return causes.held(person).stream()
                .map(h -> new Cause(
                        "held:" + h.source() + ":" + h.count() + ":" + h.known(),
                        "held",
                        "Held back: " + h.count() + " of " + h.known() + (isBook(h) ? " cards" : " meetings")
                                + " would go from “" + h.label() + "”",
                        "Let them pass, or keep them.",
                        now,
                        false,
                        isBook(h) ? "/address-books" : "/in-step"))
                .toList();
    }

    private static boolean isBook(Causes.Held held) {
        return held.kind().equals("book");
    }

    /** Address books that wait for approval, cards that fit several contacts, and what one side removed. */
    private List<Cause> books(UUID person) {
        List<Cause> found = new ArrayList<>();
        causes.waitingBooks(person)
                .forEach(b -> found.add(new Cause(
                        "book:" + b.source() + ":" + b.at().getEpochSecond(),
                        "book",
                        "Your address book “" + b.label() + "” waits for approval",
                        "It would make " + b.creates() + " contacts and write " + b.writes() + " cards.",
                        b.at(),
                        false,
                        "/address-books?view=books&book=" + b.source())));
        causes.openCards(person)
                .ifPresent(c -> found.add(new Cause(
                        "cards:" + c.at().getEpochSecond(),
                        "cards",
                        c.count() == 1
                                ? "A card of yours fits several contacts"
                                : c.count() + " cards of yours fit several contacts",
                        "Say whose they are.",
                        c.at(),
                        false,
                        "/address-books?view=to%20settle")));
        causes.removedCards(person)
                .ifPresent(c -> found.add(new Cause(
                        "removed:" + c.at().getEpochSecond(),
                        "cards",
                        c.count() == 1
                                ? "A contact of your address book was removed on one side"
                                : c.count() + " contacts of your address book were removed on one side",
                        "Say whether they are removed on the other, too.",
                        c.at(),
                        false,
                        "/address-books?view=removed")));
        return found;
    }

    private List<Cause> conflicts(UUID person, Instant now) {
        return causes.lost(person, now.minus(CONFLICTS)).stream()
                .map(l -> new Cause(
                        "conflict:" + l.id(),
                        "conflict",
                        "Changed on both sides: " + (l.title().isEmpty() ? "(no title)" : l.title()),
                        l.field().isEmpty() ? "It was deleted on one of them." : "One value was replaced.",
                        l.at(),
                        false,
                        "/in-step?view=conflicts"))
                .toList();
    }

    /** Whatever works by one stops with it. */
    private List<Cause> tokens(UUID signIn, Viewer viewer, Instant now) {
        return tokens.ending(signIn, viewer.role() == Role.ADMINISTRATOR, now, now.plus(TOKENS_AHEAD)).stream()
                .map(t -> new Cause(
                        "token:" + t.id(),
                        "token",
                        "The token “" + t.label() + "” ends soon",
                        "Create another one and give it to the program before "
                                + t.expiresAt().toString().substring(0, 10) + ".",
                        t.expiresAt().minus(TOKENS_AHEAD),
                        false,
                        t.signIn().equals(signIn) ? "/account" : "/sign-ins?state=program"))
                .toList();
    }

    /** One for all of them: the newest makes it new again. Theirs are those whom they met themselves, whatever else they may see. */
    private Optional<Cause> strangers(Viewer viewer) {
        return strangers
                .newest(new Viewer(Role.REP, viewer.person(), viewer.team()))
                .map(newest -> new Cause(
                        "strangers:" + newest.first().getEpochSecond(),
                        "strangers",
                        newest.all() == 1
                                ? "1 person you met is on no record"
                                : newest.all() + " people you met are on no record",
                        "The newest is " + (newest.name().isEmpty() ? newest.address() : newest.name()) + ".",
                        newest.first(),
                        false,
                        "/triage"));
    }
}
