package jandrel.service.meetings;

import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.core.address.EmailAddress;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.MeetingItem.Transparency;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Details.When;
import jandrel.service.kernel.Refusal;
import java.net.URI;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Makes details of what somebody asks for. All that does not fit is named at once. */
final class Making {
    private static final int LONGEST_TITLE = 400;
    private static final int LONGEST_TEXT = 50_000;
    private static final int MOST_GUESTS = 200;
    private static final int MOST_REMINDER = 60 * 24 * 28;
    private static final Duration LONGEST = Duration.ofDays(60);
    private static final Set<String> SORTS = Set.of("meeting", "call", "follow-up");
    private static final SortedMap<String, Answer> NO_ANSWERS = new TreeMap<>();
    private final List<String> problems = new ArrayList<>();

    private Making() {}

    static Sort sort(String word) {
        if (!SORTS.contains(word)) {
            throw Refusal.bad("There is no “" + word + "” to make", "It can be meeting, call or follow-up.");
        }
        return Sort.of(word);
    }

    static Details details(NewMeeting n) {
        Making in = new Making();
        boolean allDay = Boolean.TRUE.equals(n.allDay());
        return in.checked(new Details(
                n.title().strip(),
                new When(n.begins(), n.ends(), allDay, allDay ? "" : or(n.zone(), "")),
                line(or(n.place(), "")),
                or(n.online(), "").strip(),
                or(n.text(), "").strip(),
                !Boolean.FALSE.equals(n.busy()),
                Boolean.TRUE.equals(n.isPrivate()) ? Privacy.PRIVATE : Privacy.PUBLIC,
                n.reminder() == null ? Details.NONE : n.reminder(),
                in.guests(or(n.guests(), List.of())),
                NO_ANSWERS,
                false));
    }

    static Details changed(Details was, MeetingChange c) {
        Making in = new Making();
        When when = was.when();
        Instant begins = or(c.begins(), when.begins());
        // what is moved keeps its length
        Duration length = Duration.between(when.begins(), when.ends());
        Instant ends = or(c.ends(), begins.plus(length));
        boolean allDay = or(c.allDay(), when.allDay());
        return in.checked(new Details(
                or(c.title(), was.title()).strip(),
                new When(begins, ends, allDay, allDay ? "" : or(c.zone(), when.zone())),
                c.place() == null ? was.place() : line(c.place()),
                or(c.online(), was.online()).strip(),
                or(c.text(), was.text()).strip(),
                or(c.busy(), was.busy()),
                c.isPrivate() == null ? was.privacy() : c.isPrivate() ? Privacy.PRIVATE : Privacy.PUBLIC,
                or(c.reminder(), was.reminder()),
                c.guests() == null ? was.guests() : in.guests(c.guests()),
                // whoever came at the old time has yet to say so of the new one (RFC 5546 §3.2.2.1)
                begins.equals(when.begins()) && ends.equals(when.ends()) ? was.answers() : NO_ANSWERS,
                or(c.cancelled(), was.cancelled())));
    }

    private static <T> T or(@Nullable T given, T otherwise) {
        return given == null ? otherwise : given;
    }

    private static String line(String text) {
        return text.replaceAll("\\s+", " ").strip();
    }

    private SortedSet<String> guests(List<String> written) {
        SortedSet<String> guests = new TreeSet<>();
        for (String one : written) {
            EmailAddress.parse(one)
                    .ifPresentOrElse(
                            a -> guests.add(a.toString()),
                            () -> problems.add("“" + one + "” is no address of a guest."));
        }
        if (guests.size() > MOST_GUESTS) {
            problems.add("At most " + MOST_GUESTS + " guests can be asked.");
        }
        return guests;
    }

    private Details checked(Details d) {
        if (d.title().isEmpty()
                || d.title().length() > LONGEST_TITLE
                || !line(d.title()).equals(d.title())) {
            problems.add("“title” needs 1 to " + LONGEST_TITLE + " characters in one line.");
        }
        When when = d.when();
        if (when.ends().isBefore(when.begins())
                || Duration.between(when.begins(), when.ends()).compareTo(LONGEST) > 0) {
            problems.add("It must end after it begins, and within sixty days.");
        }
        if (when.allDay()
                && (midnight(when.begins())
                        || midnight(when.ends())
                        || when.begins().equals(when.ends()))) {
            problems.add("A whole day goes from midnight to midnight, in UTC.");
        }
        if (!when.zone().isEmpty() && !when.zone().equals(MeetingItem.UNKNOWN_ZONE) && !isZone(when.zone())) {
            problems.add("There is no zone “" + when.zone() + "”.");
        }
        if (!d.online().isEmpty() && !isLink(d.online())) {
            problems.add("“online” must be an address that begins with https://.");
        }
        if (d.text().length() > LONGEST_TEXT || d.place().length() > LONGEST_TITLE) {
            problems.add("The text or the place is too long.");
        }
        if (d.reminder() < Details.NONE || d.reminder() > MOST_REMINDER) {
            problems.add("“reminder” goes from 0 minutes to four weeks; -1 is none.");
        }
        if (!problems.isEmpty()) {
            throw Refusal.bad("The meeting does not fit together", String.join(" ", problems));
        }
        return d;
    }

    private static boolean midnight(Instant at) {
        return at.getEpochSecond() % 86_400 != 0;
    }

    private static boolean isZone(String zone) {
        try {
            ZoneId.of(zone);
            return true;
        } catch (DateTimeException unknown) {
            return false;
        }
    }

    private static boolean isLink(String link) {
        try {
            URI uri = URI.create(link);
            return "https".equals(uri.getScheme()) && uri.getHost() != null && link.length() <= LONGEST_TITLE;
        } catch (IllegalArgumentException malformed) {
            return false;
        }
    }

    /**
     * The facts that something made here begins with.
     *
     * @param names of guests, by address
     */
    static MeetingItem template(
            String uid, Sort sort, Details d, String owner, String ownerName, Map<String, String> names, Instant now) {
        List<Party> parties = new ArrayList<>();
        EmailAddress.parse(owner).ifPresent(a -> parties.add(new Party(Part.ORGANISER, a, ownerName)));
        d.guests()
                .forEach(g -> parties.add(
                        new Party(Part.ATTENDEE, EmailAddress.of(g), Objects.requireNonNullElse(names.get(g), ""))));
        return new MeetingItem(
                "meeting:" + uid + "|",
                uid,
                null,
                d.when().begins(),
                d.when().ends(),
                d.when().allDay(),
                d.when().zone(),
                parties,
                d.title(),
                d.place(),
                d.online(),
                d.privacy(),
                State.PLANNED,
                0,
                now.toEpochMilli(),
                List.of(),
                sort,
                d.busy() ? Transparency.OPAQUE : Transparency.TRANSPARENT);
    }
}
