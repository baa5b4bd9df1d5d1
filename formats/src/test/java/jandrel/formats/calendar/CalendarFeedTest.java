package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.reconcile.Details;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class CalendarFeedTest {
    private static final Instant TEN = Instant.parse("2026-05-04T08:00:00Z");
    private static final Details DETAILS = new Details(
            "Signing",
            new Details.When(TEN, TEN.plusSeconds(3_600), false, ""),
            "Pier 3",
            "",
            "",
            true,
            Privacy.PUBLIC,
            Details.NONE,
            new TreeSet<>(),
            new TreeMap<>(),
            false);

    private static Party party(Part part, String name) {
        String address = part.name().toLowerCase(Locale.ROOT) + "@skarvik.example";
        return new Party(part, EmailAddress.parse(address).orElseThrow(), name);
    }

    private static List<Party> parties(Item item) {
        return item instanceof MeetingItem meeting ? meeting.parties() : List.of();
    }

    @Test
    void aFileSaysWhoTakesPartAndAsksNobody() throws IOException {
        List<Party> people = new ArrayList<>(List.of(party(Part.ORGANISER, "Maren; \"the\" one, Aldous")));
        for (Part part : Part.values()) {
            if (part.isGuest() || part == Part.ROOM) {
                people.add(party(part, part == Part.GROUP ? "" : "Name of\r\nATTENDEE:mailto:nobody@x.example"));
            }
        }
        StringWriter to = new StringWriter();
        try (CalendarFeed out = CalendarFeed.file(to)) {
            out.add("u1@jandrel", DETAILS, 2, TEN, people);
        }
        String text = to.toString().replace("\r\n ", "");
        assertThat(text).doesNotContain("METHOD:");
        assertThat(text.lines().filter(l -> l.startsWith("ATTENDEE") || l.startsWith("ORGANIZER")))
                .hasSize(people.size())
                .allMatch(l -> l.contains("SCHEDULE-AGENT=NONE"));
        CalendarWindow window = new CalendarWindow(TEN.minusSeconds(86_400), TEN.plusSeconds(86_400));
        List<Party> read = new ArrayList<>();
        new CalendarReader(CalendarLimits.USUAL)
                .read(to.toString().getBytes(StandardCharsets.UTF_8), window, "x")
                .found()
                .forEach(o -> read.addAll(parties(o.item())));
        assertThat(read)
                .extracting(Party::part, Party::address)
                .containsExactlyElementsOf(people.stream()
                        .map(p -> org.assertj.core.groups.Tuple.tuple(p.part(), p.address()))
                        .toList());
        assertThat(read.get(0).name()).isEqualTo("Maren; \"the\" one, Aldous");
    }

    @Test
    void aSubscriptionTellsWhatIsOnAlone() throws IOException {
        StringWriter to = new StringWriter();
        try (CalendarFeed out = CalendarFeed.subscription(to, "Skarvik, all")) {
            out.add("u1@jandrel", DETAILS, 2, TEN, List.of());
        }
        assertThat(to.toString())
                .contains("METHOD:PUBLISH", "NAME:Skarvik\\, all", "SUMMARY:Signing")
                .doesNotContain("ATTENDEE", "ORGANIZER");
    }
}
