package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyBoolean;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import jandrel.core.policy.BookRules;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import jandrel.formats.mail.Phones;
import jandrel.sources.AddressBookServer;
import jandrel.sources.AddressBookServer.AddressBook;
import jandrel.sources.DavChanges;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.Books;
import jandrel.store.contacts.CardIntake;
import jandrel.store.contacts.CardIntake.FetchedCard;
import jandrel.store.contacts.CardLedger;
import jandrel.store.people.People;
import jandrel.store.policy.Policies;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

class ContactPassTest {
    private static final UUID ID = UUID.randomUUID();
    private static final UUID PERSON = UUID.randomUUID();
    private static final AddressBook BOOK = new AddressBook("/people/", "People", true, true);
    private final AddressBookServer server = mock(AddressBookServer.class);
    private final Connections connections = mock(Connections.class);
    private final Policies policies = mock(Policies.class);
    private final Books books = mock(Books.class);
    private final CardIntake intake = mock(CardIntake.class);
    private final Connection connection =
            Connection.fresh(ID, PERSON, UUID.randomUUID(), "ina@corvane.example", null, Instant.EPOCH, "capturing");
    private final ContactPass pass = new ContactPass(
            connections,
            policies,
            mock(People.class),
            books,
            intake,
            mock(CardLedger.class),
            new Phones("NO"),
            Clock.systemUTC());

    @BeforeEach
    void oneBook() {
        Source source = new Source(
                7,
                ID,
                "book",
                "/people/",
                "People",
                "token",
                null,
                true,
                "",
                false,
                "",
                false,
                0,
                0,
                new String[0],
                false,
                false,
                0);
        when(server.books()).thenReturn(List.of(BOOK));
        when(connections.sources(ID)).thenReturn(List.of(source));
        when(connections.source(7)).thenReturn(Optional.of(source));
        when(books.privately(ID)).thenReturn(Set.of());
        when(books.again(7)).thenReturn(new Books.Again(List.of(), ""));
        when(books.mayGoOn(anyInt(), anyBoolean(), anyInt(), any())).thenReturn(true);
        policy(Direction.IN);
    }

    private void policy(Direction contacts) {
        when(policies.of(PERSON))
                .thenReturn(Optional.of(Policy.first().with(new Scope(true, true, Direction.IN, contacts, 90, 60))));
    }

    private void ownBook(String name) {
        Policy both = Policy.first().with(new Scope(true, true, Direction.IN, Direction.BOTH, 90, 60));
        when(policies.of(PERSON)).thenReturn(Optional.of(both.with(BookRules.SAFE.intoBook(name))));
        when(books.isOutgoingAt(PERSON, ID)).thenReturn(true);
        when(books.isOutgoing(PERSON, 7)).thenReturn(true);
        when(server.changes(BOOK, "token"))
                .thenReturn(new DavChanges("next", List.of("/people/a.vcf"), List.of(), false));
        when(server.objects(eq("/people/"), any())).thenReturn(List.of(card("/people/a.vcf", "First")));
        when(connections.connection(ID)).thenReturn(Optional.of(connection));
    }

    @Test
    void whereNoBookOfTheirOwnCanBeMadeNothingGoesOutAndAllElseGoesOn() {
        ownBook("Customers");
        when(server.make("Customers")).thenThrow(new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "not allowed"));
        assertThatThrownBy(() -> pass.over(server, connection))
                .isInstanceOf(SourceTrouble.class)
                .hasMessageContaining("contacts go into a book called “Customers”");
        verify(intake).take(any(), any(), any(), any());
        verify(books, never()).wantedOut(any(), any(), any());
        verify(server, never()).put(any(), any(), any());
    }

    /** A server that keeps no names, or does not list what it made, would be filled with books. */
    @Test
    void aBookIsMadeOnceWhateverTheServerCallsIt() {
        ownBook("Customers");
        when(server.make("Customers")).thenReturn("/new/");
        assertThatThrownBy(() -> pass.over(server, connection))
                .hasMessageContaining("is not among this person's books; make one called so");
        verify(connections).addSource(ID, "book", "/new/", "Customers");
        verify(books).madeFor(ID, "/new/", "Customers");
        when(books.bookMadeFor(ID, "Customers")).thenReturn(Optional.of("/new/"));
        assertThatThrownBy(() -> pass.over(server, connection)).isInstanceOf(SourceTrouble.class);
        verify(server, times(1)).make(any());
        verify(books, never()).wantedOut(any(), any(), any());
    }

    @Test
    void aBookOfThatNameIsNotMadeAgain() {
        ownBook("People");
        when(books.wantedOut(any(), any(), any())).thenReturn(List.of());
        pass.over(server, connection);
        verify(server, never()).make(any());
        verify(connections).outgoing(7);
        verify(books).wantedOut(any(), any(), any());
    }

    private static DavObject card(String href, String name) {
        String card = "BEGIN:VCARD\r\nVERSION:3.0\r\nFN:" + name + "\r\nN:;" + name + ";;;\r\nEND:VCARD\r\n";
        return new DavObject(href, "tag", card.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void aLookWithoutNewsIsOneRequestForTheBook() {
        when(server.changes(BOOK, "token")).thenReturn(new DavChanges("token", List.of(), List.of(), false));
        assertThat(pass.over(server, connection)).isZero();
        assertThat(pass.over(server, connection)).isZero();
        verify(server, times(1)).books();
        verify(server, times(2)).changes(BOOK, "token");
        verify(server, never()).objects(any(), any());
        verify(intake, never()).moveCursor(any(), any(), any());
    }

    @Test
    void whereNothingFlowsNothingIsRead() {
        policy(Direction.NONE);
        assertThat(pass.over(server, connection)).isZero();
        verify(server, never()).changes(any(), any());
    }

    @Test
    void aServerThatLiesStopsNothing() {
        String endless = "/people/" + "x".repeat(5_000) + ".vcf";
        when(server.changes(BOOK, "token"))
                .thenReturn(new DavChanges(
                        "next", List.of("/people/a.vcf", "/people/a.vcf", "/people/b.vcf", endless), List.of(), false));
        // twice the same, one that nobody asked for, and one that is no card
        when(server.objects(eq("/people/"), any()))
                .thenReturn(List.of(
                        card("/people/a.vcf", "First"),
                        card("/people/a.vcf", "Second"),
                        card("/elsewhere/c.vcf", "Nobody asked"),
                        new DavObject("/people/b.vcf", "", new byte[] {0, 1, 2})));
        assertThat(pass.over(server, connection)).isEqualTo(2);
        ArgumentCaptor<List<FetchedCard>> taken = ArgumentCaptor.captor();
        verify(intake).take(any(), taken.capture(), any(), any());
        assertThat(taken.getValue())
                .extracting(FetchedCard::href)
                .containsExactlyInAnyOrder("/people/a.vcf", "/people/b.vcf");
        assertThat(taken.getValue())
                .filteredOn(c -> c.href().equals("/people/b.vcf"))
                .singleElement()
                .satisfies(c -> assertThat(c.facts()).isNull());
        verify(intake).moveCursor(any(), eq("token"), eq("next"));
    }

    @Test
    void aBookThatWaitsIsReadAndNothingElse() {
        when(books.mayGoOn(anyInt(), anyBoolean(), anyInt(), any())).thenReturn(false);
        policy(Direction.BOTH);
        when(server.changes(BOOK, "token"))
                .thenReturn(new DavChanges("next", List.of("/people/a.vcf"), List.of(), false));
        when(server.objects(eq("/people/"), any())).thenReturn(List.of(card("/people/a.vcf", "First")));
        pass.over(server, connection);
        verify(intake).take(any(), any(), any(), any());
        verify(books, never()).putOut(any(), any());
        verify(books, never()).fresh(anyInt(), anyInt());
        verify(server, never()).put(any(), any(), any());
        verify(books, never()).begun(anyInt());
    }
}
