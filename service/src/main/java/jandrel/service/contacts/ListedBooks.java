package jandrel.service.contacts;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jandrel.sources.AddressBookServer;
import jandrel.sources.AddressBookServer.AddressBook;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.contacts.Books;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** Which address books people have, asked now and then alone: a look without news is one request for each book. */
final class ListedBooks {
    private final Connections connections;
    private final Books books;
    private final Cache<UUID, List<AddressBook>> known = Caffeine.newBuilder()
            .expireAfterWrite(Duration.ofMinutes(30))
            .maximumSize(20_000)
            .build();

    ListedBooks(Connections connections, Books books) {
        this.connections = connections;
        this.books = books;
    }

    List<AddressBook> of(AddressBookServer server, Connection connection) {
        List<AddressBook> listed = known.getIfPresent(connection.id());
        if (listed == null) {
            listed = server.books();
            listed.forEach(b -> connections.addSource(connection.id(), "book", b.href(), b.name()));
            known.put(connection.id(), listed);
        }
        return listed;
    }

    /** They are asked for anew the next time. */
    void forget(Connection connection) {
        known.invalidate(connection.id());
    }

    /**
     * The book into which contacts go, apart from what is personal: the one of that name, or a new one. A book is made once, whatever the
     * server then calls it.
     *
     * @return its href
     * @throws SourceTrouble if there is none, and none can be made
     */
    String apart(AddressBookServer server, Connection connection, String name) {
        Optional<String> own = called(server, connection, name).or(() -> books.bookMadeFor(connection.id(), name));
        if (own.isEmpty()) {
            // somebody may have made it since they were listed
            forget(connection);
            own = called(server, connection, name);
        }
        String href = own.orElseGet(() -> made(server, connection, name));
        if (of(server, connection).stream().noneMatch(b -> b.href().equals(href))) {
            throw forbidden(name, "the one that was made is not among this person's books; make one called so");
        }
        connections.sources(connection.id()).stream()
                .filter(s -> s.name().equals(href) && !s.outgoing())
                .findFirst()
                .ifPresent(s -> {
                    connections.notOutgoing(connection.id());
                    connections.outgoing(s.id());
                });
        return href;
    }

    private Optional<String> called(AddressBookServer server, Connection connection, String name) {
        return of(server, connection).stream()
                .filter(b -> b.writable() && b.name().equals(name))
                .map(AddressBook::href)
                .findFirst();
    }

    private String made(AddressBookServer server, Connection connection, String name) {
        try {
            String href = server.make(name);
            connections.addSource(connection.id(), "book", href, name);
            books.madeFor(connection.id(), href, name);
            forget(connection);
            return href;
        } catch (SourceTrouble trouble) {
            throw trouble.kind() == SourceTrouble.Kind.FORBIDDEN
                    ? forbidden(name, "none can be made here: " + trouble.getMessage())
                    : trouble;
        }
    }

    private static SourceTrouble forbidden(String name, String why) {
        return new SourceTrouble(
                SourceTrouble.Kind.FORBIDDEN, "contacts go into a book called “" + name + "”, and " + why);
    }
}
