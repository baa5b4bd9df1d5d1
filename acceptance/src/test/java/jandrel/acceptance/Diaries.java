package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** People with a calendar at Radicale and a customer, and what their tests do with both. */
abstract class Diaries {
    private static final Instant HOUR = Instant.now().truncatedTo(ChronoUnit.HOURS);
    static Harbour h;

    static Instant in(int hours) {
        return HOUR.plus(hours, ChronoUnit.HOURS);
    }

    static NewMeeting wanted(String sort, String title, int from, UUID record, String... guests) {
        return new NewMeeting(
                sort,
                title,
                in(from),
                in(from + 1),
                null,
                "Europe/Oslo",
                List.of(record),
                List.of(guests),
                null,
                "Pier 3",
                null,
                "What to bring",
                null,
                null,
                15,
                null);
    }

    /** An hour long, and nothing more said of it. */
    static NewMeeting wanted(String title, Instant begins, UUID record) {
        return wanted(title, begins, record, null);
    }

    /** @param secret whether it is for its owner alone */
    static NewMeeting wanted(String title, Instant begins, UUID record, @Nullable Boolean secret) {
        return new NewMeeting(
                "meeting",
                title,
                begins,
                begins.plus(1, ChronoUnit.HOURS),
                null,
                null,
                List.of(record),
                null,
                null,
                null,
                null,
                null,
                null,
                secret,
                null,
                null);
    }

    static MeetingChange title(String title) {
        return new MeetingChange(title, null, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    static MeetingChange moved(Instant begins) {
        return new MeetingChange(null, begins, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    /** Somebody with a calendar, an account of theirs, and their sign-in. */
    record Someone(String address, UUID account, Service service) {}

    static Someone someone(String key) throws Exception {
        String address = h.person(key, "rep");
        UUID account = h.account(key);
        h.connectCalendar(key);
        h.settle();
        return new Someone(address, account, h.process.signedIn(key, Providers.PASSWORD));
    }

    static MeetingDetail open(Someone who, UUID item) throws Exception {
        return who.service().get("/api/meetings/" + item, MeetingDetail.class);
    }

    static String file(Someone who) throws Exception {
        List<String> files = h.providers.files(who.address());
        return files.size() == 1 ? h.providers.file(who.address(), files.get(0)).orElse("") : files.toString();
    }

    static void write(Someone who, String text) throws Exception {
        h.providers.file(who.address(), h.providers.files(who.address()).get(0), text);
    }

    static void untilInStep(Someone who, UUID item) {
        soon().until(() -> {
            MeetingDetail d = open(who, item);
            return d.stand() != null && d.stand().state().equals("in-step");
        });
    }

    static @Nullable ActivityInfo only(Someone who) throws Exception {
        List<ActivityInfo> timeline = h.timeline(who.account());
        return timeline.size() == 1 ? timeline.get(0) : null;
    }

    static String basic(Instant at) {
        return at.toString().replaceAll("[-:]", "");
    }

    static void event(Someone who, String name, int from, String... more) throws Exception {
        List<String> lines = new java.util.ArrayList<>(List.of(
                "BEGIN:VEVENT",
                "UID:" + from + "@" + who.address(),
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + basic(in(from)),
                "DURATION:PT1H",
                "SUMMARY:" + name));
        lines.addAll(List.of(more));
        lines.add("END:VEVENT");
        h.providers.event(who.address(), "e" + from + ".ics", lines.toArray(String[]::new));
    }
}
