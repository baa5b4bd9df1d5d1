package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import jandrel.sources.CalendarServer.Calendar;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Against Radicale. */
class CalDavServerTest {
    private static final Stand STAND = Stand.fromEnvironment();
    private static final String WHO = "planner@corvane.example";
    private static final Trust TRUST = Trust.with(Path.of(STAND.value("CA")));
    private static final Endpoint SERVER = new Endpoint("127.0.0.1", STAND.port("CALDAV"), "/");
    private static final Providers PROVIDERS = new Providers(STAND);

    @BeforeAll
    static void fill() throws IOException, InterruptedException {
        PROVIDERS.addUser(WHO);
        PROVIDERS.calendar(WHO);
        put("one");
        put("two");
    }

    private static void put(String name) throws IOException, InterruptedException {
        PROVIDERS.event(
                WHO,
                name + ".ics",
                "BEGIN:VEVENT",
                "UID:" + name,
                "DTSTAMP:20260101T000000Z",
                "DTSTART:20260504T090000Z",
                "SUMMARY:Buoys & chains <" + name + ">",
                "X-OWN:kept",
                "END:VEVENT");
    }

    private static CalendarServer open(String password) {
        return open(WHO, password);
    }

    private static CalendarServer open(String who, String password) {
        return CalDavServer.open(SERVER, new ServerAccount(who, password), TRUST, new Inward(List.of(SERVER.host())));
    }

    @Test
    void itsCalendarsAreFoundFromTheServersRoot() {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            assertThat(server.calendars()).singleElement().satisfies(c -> {
                assertThat(c.href()).endsWith("/diary/");
                assertThat(c.syncs()).isTrue();
                assertThat(c.writable()).isTrue();
            });
        }
    }

    @Test
    void whatChangesIsToldOnceAndWhatGoesToo() throws IOException, InterruptedException {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            Calendar calendar = server.calendars().get(0);
            DavChanges all = server.changes(calendar, "");
            assertThat(all.whole()).isTrue();
            assertThat(all.changed()).hasSizeGreaterThanOrEqualTo(2).allMatch(h -> h.endsWith(".ics"));
            DavChanges none = server.changes(calendar, all.token());
            assertThat(none.changed()).isEmpty();
            assertThat(none.removed()).isEmpty();
            put("three");
            PROVIDERS.removeEvent(WHO, "three.ics");
            put("four");
            DavChanges some = server.changes(calendar, all.token());
            assertThat(some.whole()).isFalse();
            assertThat(some.changed()).singleElement().asString().endsWith("four.ics");
            PROVIDERS.removeEvent(WHO, "four.ics");
            assertThat(server.changes(calendar, some.token()).removed())
                    .singleElement()
                    .asString()
                    .endsWith("four.ics");
        }
    }

    @Test
    void objectsComeAsTheyWerePut() {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            String calendar = server.calendars().get(0).href();
            assertThat(server.objects(calendar, List.of(calendar + "one.ics", calendar + "never.ics")))
                    .singleElement()
                    .satisfies(o -> assertThat(new String(o.bytes(), StandardCharsets.UTF_8))
                            .contains("Buoys & chains <one>", "X-OWN:kept"));
        }
    }

    @Test
    void aTokenThatTheServerForgotStartsOver() {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            Calendar calendar = server.calendars().get(0);
            DavChanges again = server.changes(calendar, "http://radicale.org/ns/sync/" + "0".repeat(64));
            assertThat(again.whole()).isTrue();
            assertThat(again.changed()).isNotEmpty();
        }
    }

    @Test
    void aCalendarWithoutSyncIsComparedByTags() throws IOException, InterruptedException {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            Calendar real = server.calendars().get(0);
            Calendar without = new Calendar(real.href(), real.name(), "", false, true);
            DavChanges all = server.changes(without, "");
            assertThat(all.whole()).isTrue();
            assertThat(all.changed()).isNotEmpty().allMatch(h -> h.endsWith(".ics"));
            assertThat(server.changes(without, all.token()).changed()).isEmpty();
            put("five");
            DavChanges some = server.changes(without, all.token());
            assertThat(some.whole()).isFalse();
            assertThat(some.changed()).singleElement().asString().endsWith("five.ics");
            PROVIDERS.removeEvent(WHO, "five.ics");
            assertThat(server.changes(without, some.token()).removed())
                    .singleElement()
                    .asString()
                    .endsWith("five.ics");
            // once the server learns to tell, its own tokens begin with a whole listing
            assertThat(server.changes(real, some.token()).whole()).isTrue();
        }
    }

    @Test
    void anObjectIsOnlyWrittenOverInTheStateThatWasRead() throws IOException, InterruptedException {
        PROVIDERS.addUser("scribe@corvane.example");
        PROVIDERS.calendar("scribe@corvane.example");
        try (CalendarServer server = open("scribe@corvane.example", Providers.PASSWORD)) {
            String calendar = server.make("For <customers>");
            assertThat(server.calendars()).anySatisfy(c -> assertThat(c.name()).isEqualTo("For <customers>"));
            String href = calendar + "made.ics";
            assertThat(server.put(href, object("first"), null)).isTrue();
            assertThat(server.put(href, object("again"), null))
                    .as("there is one already")
                    .isFalse();
            DavObject read = server.objects(calendar, List.of(href)).get(0);
            assertThat(server.put(href, object("second"), read.tag())).isTrue();
            assertThat(server.put(href, object("third"), read.tag()))
                    .as("an old state")
                    .isFalse();
            assertThat(server.delete(href, read.tag())).as("an old state").isFalse();
            DavObject now = server.objects(calendar, List.of(href)).get(0);
            assertThat(new String(now.bytes(), StandardCharsets.UTF_8)).contains("SUMMARY:second");
            assertThat(server.delete(href, now.tag())).isTrue();
            assertThat(server.objects(calendar, List.of(href))).isEmpty();
            assertThat(server.delete(href, now.tag())).as("it has gone").isFalse();
        }
    }

    private static byte[] object(String title) {
        return String.join(
                        "\r\n",
                        "BEGIN:VCALENDAR",
                        "VERSION:2.0",
                        "PRODID:test",
                        "BEGIN:VEVENT",
                        "UID:made",
                        "DTSTAMP:20260101T000000Z",
                        "DTSTART:20260504T090000Z",
                        "SUMMARY:" + title,
                        "END:VEVENT",
                        "END:VCALENDAR",
                        "")
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void nobodyWritesWhereTheyMayNot() {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            assertThatThrownBy(() -> server.put("/somebody@corvane.example/diary/x.ics", object("x"), null))
                    .isInstanceOfSatisfying(
                            SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.FORBIDDEN));
        }
    }

    @Test
    void aWrongPasswordIsSaidToBeOne() {
        try (CalendarServer server = open("wrong")) {
            assertThatThrownBy(server::calendars)
                    .isInstanceOfSatisfying(
                            SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.SIGN_IN));
        }
    }

    @Test
    void anAnswerWithEntitiesOfItsOwnIsNotFollowed() {
        String hostile =
                "<!DOCTYPE a [<!ENTITY x SYSTEM 'file:///etc/passwd'>]><d:multistatus xmlns:d='DAV:'><d:response><d:href>&x;</d:href></d:response></d:multistatus>";
        assertThatThrownBy(() -> Multistatus.read(new ByteArrayInputStream(hostile.getBytes(StandardCharsets.UTF_8))))
                .isInstanceOf(IOException.class);
    }
}
