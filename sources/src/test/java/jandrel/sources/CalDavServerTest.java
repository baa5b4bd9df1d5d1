package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import jandrel.sources.CalendarServer.Changes;
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
        return CalDavServer.open(SERVER, new Account(WHO, password), TRUST);
    }

    @Test
    void itsCalendarsAreFoundFromTheServersRoot() {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            assertThat(server.calendars())
                    .singleElement()
                    .satisfies(c -> assertThat(c.href()).endsWith("/diary/"));
        }
    }

    @Test
    void whatChangesIsToldOnceAndWhatGoesToo() throws IOException, InterruptedException {
        try (CalendarServer server = open(Providers.PASSWORD)) {
            String calendar = server.calendars().get(0).href();
            Changes all = server.changes(calendar, "");
            assertThat(all.whole()).isTrue();
            assertThat(all.changed()).hasSizeGreaterThanOrEqualTo(2).allMatch(h -> h.endsWith(".ics"));
            Changes none = server.changes(calendar, all.token());
            assertThat(none.changed()).isEmpty();
            assertThat(none.removed()).isEmpty();
            put("three");
            PROVIDERS.removeEvent(WHO, "three.ics");
            put("four");
            Changes some = server.changes(calendar, all.token());
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
            String calendar = server.calendars().get(0).href();
            Changes again = server.changes(calendar, "http://radicale.org/ns/sync/" + "0".repeat(64));
            assertThat(again.whole()).isTrue();
            assertThat(again.changed()).isNotEmpty();
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
