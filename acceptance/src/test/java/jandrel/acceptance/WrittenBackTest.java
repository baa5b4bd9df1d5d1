package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.demo.Providers;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is written into people's calendars, through a real server: what was meant has changed, and nothing else. */
class WrittenBackTest extends Diaries {
    private static final Set<String> ALWAYS = Set.of("SEQUENCE", "DTSTAMP", "LAST-MODIFIED", "X-JANDREL-WRITE");

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("writtenback", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static List<String> lines(String file) {
        return List.of(file.replace("\r\n ", "").replace("\r\n\t", "").split("\r\n"));
    }

    private static String name(String line) {
        return line.split("[:;]", 2)[0];
    }

    private static void series(Someone who, Instant begins, String... more) throws Exception {
        List<String> lines = new ArrayList<>(List.of(
                "BEGIN:VEVENT",
                "UID:series@" + who.address(),
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + basic(begins),
                "DTEND:" + basic(begins.plus(45, ChronoUnit.MINUTES)),
                "RRULE:FREQ=DAILY;COUNT=5",
                "SUMMARY;LANGUAGE=de:Größenvergleich der Bojen im äußeren Hafenbecken und alles\\, was dazugehört",
                "X-FIRST;X-P=\"a:b;c\":kept as it is",
                "ATTENDEE;CN=\"Holm\\, Bram\";PARTSTAT=ACCEPTED;X-ROLE=pilot:mailto:bram@"
                        + who.address().split("@")[0] + ".example",
                "ORGANIZER;CN=\"Eva ^'the buoy^' Holm\":mailto:" + who.address(),
                "LOCATION:Quay office",
                "BEGIN:VALARM",
                "ACTION:EMAIL",
                "TRIGGER;RELATED=END:PT5M",
                "X-KEPT:1",
                "END:VALARM"));
        lines.addAll(List.of(more));
        lines.add("END:VEVENT");
        h.providers.event(who.address(), "series.ics", lines.toArray(String[]::new));
    }

    @ParameterizedTest(name = "{0}, {2} of five")
    @CsvSource(
            delimiter = '|',
            value = {
                "title|{\"title\":\"Otherwise\"}|1|SUMMARY",
                "title|{\"title\":\"Otherwise\"}|3|SUMMARY",
                "title|{\"title\":\"Otherwise\"}|5|SUMMARY",
                "place|{\"place\":\"Pier 7\"}|3|LOCATION",
                "text|{\"text\":\"One line\\nand another\"}|3|DESCRIPTION",
                "online|{\"online\":\"https://rooms.corvane.example/join/7\"}|3|CONFERENCE",
                "guests|{\"guests\":[\"new@wbguests3.example\"],\"ask\":false}|3|ATTENDEE",
                "time|{\"begins\":\"%s\"}|3|DTEND",
                "cancel|{\"cancelled\":true}|3|STATUS"
            })
    void oneOccurrenceIsChangedAndNothingElse(String what, String change, int which, String property) throws Exception {
        Someone who = someone("wb" + what + which);
        Instant begins = in(30);
        series(who, begins);
        soon().until(() -> h.timeline(who.account()).size() == 5);
        String before = file(who);
        Instant own = begins.plus(which - 1L, ChronoUnit.DAYS);
        UUID item = h.timeline(who.account()).stream()
                .filter(a -> a.at().equals(own))
                .findFirst()
                .orElseThrow()
                .id();
        Instant moved = own.plus(2, ChronoUnit.HOURS);
        var answer = who.service().ask("PUT", "/api/meetings/" + item, change.formatted(moved));
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
        boolean cancelled = what.equals("cancel");
        if (cancelled) {
            soon().until(() -> file(who).contains("STATUS:CANCELLED"));
        } else {
            untilInStep(who, item);
        }
        String after = file(who);

        List<String> was = lines(before);
        List<String> is = lines(after);
        int added = is.lastIndexOf("BEGIN:VEVENT");
        // all that was there is there, to the letter and in its order; and one event more
        assertThat(is.subList(0, added)).isEqualTo(was.subList(0, was.size() - 1));
        List<String> override = is.subList(added, is.size() - 1);
        assertThat(override).contains("RECURRENCE-ID:" + basic(own));
        assertThat(override).contains("DTSTART:" + basic(what.equals("time") ? moved : own));
        Set<String> may = new java.util.HashSet<>(Set.of("DTSTART", "DTEND", "RECURRENCE-ID"));
        may.add(property);
        if (what.equals("time")) {
            // who had accepted is asked anew (RFC 5546 §2.1.4)
            may.add("ATTENDEE");
        }
        assertThat(override.stream()
                        .filter(l -> !ALWAYS.contains(name(l)) && !may.contains(name(l)))
                        .toList())
                .isEqualTo(was.subList(was.indexOf("BEGIN:VEVENT"), was.size() - 1).stream()
                        .filter(l -> !ALWAYS.contains(name(l)) && !may.contains(name(l)) && !name(l).equals("RRULE"))
                        .toList());
        assertThat(is).contains("VERSION:2.0");
        // what is cancelled goes from timelines, as the policy has it
        List<Instant> expected = java.util.stream.IntStream.range(0, 5)
                .filter(n -> !cancelled || n != which - 1)
                .mapToObj(n -> what.equals("time") && n == which - 1 ? moved : begins.plus(n, ChronoUnit.DAYS))
                .sorted()
                .toList();
        soon().until(() -> h.timeline(who.account()).stream()
                .map(ActivityInfo::at)
                .sorted()
                .toList()
                .equals(expected));
    }

    @Test
    void theOrganisersOwnCopySaysWhoMayChangeItThoughAGuestsIsNewer() throws Exception {
        Someone organiser = someone("wborg");
        Someone guest = someone("wbguest");
        h.admin.addSignIn("wbadmin", "Second", Providers.PASSWORD, "administrator", null);
        for (Someone who : List.of(organiser, guest)) {
            h.providers.event(
                    who.address(),
                    "e.ics",
                    "BEGIN:VEVENT",
                    "UID:shared@wborg.example",
                    "DTSTAMP:20260101T000000Z",
                    "DTSTART:" + basic(in(50)),
                    "DURATION:PT1H",
                    "SUMMARY:Handover",
                    "SEQUENCE:" + (who == guest ? 9 : 0),
                    "ORGANIZER:mailto:" + organiser.address(),
                    "ATTENDEE:mailto:bram@wborg.example",
                    "ATTENDEE:mailto:" + guest.address(),
                    "END:VEVENT");
        }
        soon().until(() -> only(organiser) != null && only(organiser).owners().size() == 2);
        UUID item = only(organiser).id();
        var admin = h.process.signedIn("wbadmin", Providers.PASSWORD);
        assertThat(admin.get("/api/meetings/" + item, MeetingDetail.class).whyNot())
                .isEmpty();
        admin.put("/api/meetings/" + item, title("Handover, at last"), MadeMeeting.class);
        soon().until(() -> file(organiser).contains("SUMMARY:Handover\\, at last"));
        assertThat(file(guest)).contains("SUMMARY:Handover\r\n");
    }
}
