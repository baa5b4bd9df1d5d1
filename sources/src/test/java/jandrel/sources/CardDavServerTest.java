package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.demo.Providers;
import jandrel.demo.Stand;
import jandrel.sources.AddressBookServer.AddressBook;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Against Radicale. */
class CardDavServerTest {
    private static final Stand STAND = Stand.fromEnvironment();
    private static final Providers PROVIDERS = new Providers(STAND);

    private static AddressBookServer open(String who, String password) {
        return CardDavServer.open(
                new Endpoint("127.0.0.1", STAND.port("CALDAV"), "/"),
                new ServerAccount(who, password),
                Trust.with(Path.of(STAND.value("CA"))),
                new Inward(List.of("127.0.0.1")),
                Patience.USUAL);
    }

    /** Somebody with a calendar, which is no address book. */
    private static AddressBookServer fresh() throws IOException, InterruptedException {
        String who = "cards-" + UUID.randomUUID() + "@corvane.example";
        PROVIDERS.addUser(who);
        PROVIDERS.calendar(who);
        return open(who, Providers.PASSWORD);
    }

    private static byte[] card(String uid, String name) {
        return ("BEGIN:VCARD\r\nVERSION:3.0\r\nUID:" + uid + "\r\nFN:" + name + "\r\nN:" + name
                        + ";;;;\r\nX-OWN;X-P=a:kept\r\nEND:VCARD\r\n")
                .getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void aBookIsMadeAndFoundAndNothingElseIsOne() throws Exception {
        try (AddressBookServer server = fresh()) {
            assertThat(server.books()).isEmpty();
            String href = server.make("Customers <all> & more");
            assertThat(server.books()).singleElement().satisfies(b -> {
                assertThat(b.href()).isEqualTo(href);
                assertThat(b.name()).isEqualTo("Customers <all> & more");
                assertThat(b.syncs()).isTrue();
                assertThat(b.writable()).isTrue();
            });
        }
    }

    @Test
    void whatChangesIsToldOnceAndWhatGoesToo() throws Exception {
        try (AddressBookServer server = fresh()) {
            AddressBook book = book(server);
            server.put(book.href() + "one.vcf", card("one", "Runa"), null);
            server.put(book.href() + "two.vcf", card("two", "Bo"), null);
            DavChanges all = server.changes(book, "");
            assertThat(all.whole()).isTrue();
            assertThat(all.changed()).hasSize(2);
            assertThat(server.changes(book, all.token()).changed()).isEmpty();
            DavObject one = server.objects(book.href(), List.of(book.href() + "one.vcf"))
                    .get(0);
            server.delete(one.href(), one.tag());
            server.put(book.href() + "three.vcf", card("three", "Åse"), null);
            DavChanges some = server.changes(book, all.token());
            assertThat(some.whole()).isFalse();
            assertThat(some.changed()).singleElement().asString().endsWith("three.vcf");
            assertThat(some.removed()).singleElement().asString().endsWith("one.vcf");
            // and where a server cannot tell
            AddressBook without = new AddressBook(book.href(), book.name(), false, true);
            DavChanges byTags = server.changes(without, "");
            assertThat(byTags.changed()).hasSize(2);
            assertThat(server.changes(without, byTags.token()).changed()).isEmpty();
        }
    }

    private static AddressBook book(AddressBookServer server) {
        server.make("Contacts");
        return server.books().get(0);
    }

    @Test
    void aCardIsOnlyWrittenOverInTheStateThatWasRead() throws Exception {
        try (AddressBookServer server = fresh()) {
            String href = book(server).href() + "made.vcf";
            assertThat(server.put(href, card("made", "First"), null)).isTrue();
            assertThat(server.put(href, card("made", "Again"), null))
                    .as("there is one already")
                    .isFalse();
            DavObject read =
                    server.objects(href.replace("made.vcf", ""), List.of(href)).get(0);
            assertThat(server.put(href, card("made", "Second"), read.tag())).isTrue();
            assertThat(server.put(href, card("made", "Third"), read.tag()))
                    .as("an old state")
                    .isFalse();
            assertThat(server.delete(href, read.tag())).as("an old state").isFalse();
            DavObject now =
                    server.objects(href.replace("made.vcf", ""), List.of(href)).get(0);
            assertThat(new String(now.bytes(), StandardCharsets.UTF_8)).contains("FN:Second", "X-OWN;X-P=a:kept");
            assertThat(server.delete(href, now.tag())).isTrue();
            assertThat(server.objects(href.replace("made.vcf", ""), List.of(href)))
                    .isEmpty();
        }
    }

    @Test
    void aWrongPasswordIsSaidToBeOneAndByTheRightName() throws Exception {
        String who = "cards-wrong@corvane.example";
        PROVIDERS.addUser(who);
        try (AddressBookServer server = open(who, "wrong")) {
            assertThatThrownBy(server::books)
                    .isInstanceOfSatisfying(
                            SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.SIGN_IN))
                    .hasMessageContaining("the address-book server does not take this sign-in");
        }
    }
}
