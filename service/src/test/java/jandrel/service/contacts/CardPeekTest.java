package jandrel.service.contacts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.api.ContactApi.BookInfo;
import jandrel.formats.mail.Phones;
import jandrel.service.connections.Servers;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.Books;
import jandrel.store.policy.Policies;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Who is shown of a book that waits: nobody who has become its owner's own business since its cards were sorted. */
class CardPeekTest {
    private static final UUID ID = UUID.randomUUID();
    private final Connections connections = mock(Connections.class);
    private final Servers servers = mock(Servers.class);
    private final Books books = mock(Books.class);
    private final BookInMemory book = new BookInMemory("/people/");
    private final BookInfo asked = mock(BookInfo.class);
    private final CardPeek peek = new CardPeek(connections, servers, books, mock(Policies.class), new Phones("NO"));

    @BeforeEach
    void oneBook() {
        Server server = Server.of(UUID.randomUUID(), "contacts", "carddav", "h", 1, "/");
        Connection connection =
                Connection.fresh(ID, UUID.randomUUID(), server.id(), "ina", new byte[1], Instant.EPOCH, "capturing");
        when(asked.source()).thenReturn(7);
        when(asked.connection()).thenReturn(ID);
        when(connections.connection(ID)).thenReturn(Optional.of(connection));
        when(connections.server(server.id())).thenReturn(Optional.of(server));
        when(servers.books(any(), any())).thenReturn(book);
        when(books.privately(ID)).thenReturn(Set.of("family"));
        when(books.fresh(7, 20))
                .thenReturn(List.of("/people/a.vcf", "/people/b.vcf", "/people/c.vcf", "/people/d.vcf"));
        when(books.groups(7)).thenReturn(List.of("/people/g.vcf"));
        card("a", "ORG:Port of Skarvik");
        card("b", "CLASS:PRIVATE");
        card("c", "CATEGORIES:Family");
        card("d", "NOTE:in the group");
        card("g", "KIND:group\r\nMEMBER:urn:uuid:d");
        read("token");
    }

    private void card(String uid, String line) {
        String name = uid.equals("g") ? "Family" : "Card " + uid;
        String card =
                "BEGIN:VCARD\r\nVERSION:4.0\r\nUID:" + uid + "\r\nFN:" + name + "\r\n" + line + "\r\nEND:VCARD\r\n";
        book.own(uid + ".vcf", card.getBytes(StandardCharsets.UTF_8));
    }

    private void read(String cursor) {
        Source source = mock(Source.class);
        when(source.name()).thenReturn("/people/");
        when(source.cursor()).thenReturn(cursor);
        when(connections.source(7)).thenReturn(Optional.of(source));
    }

    @Test
    void whoIsPrivateByNowIsNotNamed() {
        assertThat(peek.names(asked, 20)).containsExactly("Card a (Port of Skarvik)");
    }

    @Test
    void whileTheBookIsReadForTheFirstTimeNobodyIs() {
        read("");
        assertThat(peek.names(asked, 20)).isEmpty();
    }
}
