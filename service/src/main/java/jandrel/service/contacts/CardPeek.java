package jandrel.service.contacts;

import jandrel.api.ContactApi.BookInfo;
import jandrel.core.contacts.CardGroups;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.policy.Policy;
import jandrel.formats.mail.Phones;
import jandrel.service.connections.Servers;
import jandrel.sources.AddressBookServer;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import jandrel.store.contacts.Books;
import jandrel.store.policy.Policies;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Who is behind the figures of a book that waits: cards are asked for where they are, as nothing of them is kept. */
@Component
class CardPeek {
    private final Connections connections;
    private final Servers servers;
    private final Books books;
    private final Policies policies;
    private final Phones phones;

    CardPeek(Connections connections, Servers servers, Books books, Policies policies, Phones phones) {
        this.connections = connections;
        this.servers = servers;
        this.books = books;
        this.policies = policies;
        this.phones = phones;
    }

    /** Of the first who would become contacts; none where the server cannot be asked. */
    List<String> names(BookInfo book, int most) {
        List<String> hrefs = books.fresh(book.source(), most);
        Optional<Source> source = connections.source(book.source());
        Optional<Connection> connection = connections.connection(book.connection());
        Optional<Server> server = connection.flatMap(c -> connections.server(c.server()));
        // until all of it has been read, nobody knows who is in a group that is private
        boolean isRead = source.filter(s -> !s.cursor().isEmpty()).isPresent();
        if (hrefs.isEmpty() || !isRead || server.isEmpty()) {
            return List.of();
        }
        String collection = source.get().name();
        Set<String> privately = books.privately(book.connection());
        try (AddressBookServer asked = servers.books(connection.orElseThrow(), server.get())) {
            CardGroups groups = GroupsSeen.at(asked, collection, books.groups(book.source()), phones);
            List<String> names = new ArrayList<>();
            for (ReadCard card : ReadCard.all(hrefs, asked.objects(collection, hrefs), phones)) {
                ContactDetails details = card.details();
                if (details != null && !card.isOwnBusiness(privately, groups)) {
                    String company = details.organisation();
                    names.add(details.name() + (company.isEmpty() ? "" : " (" + company + ")"));
                }
            }
            return names.stream().sorted().toList();
        } catch (SourceTrouble trouble) {
            return List.of();
        }
    }

    /** Of the first who would be put into it. */
    List<String> writes(BookInfo book, int most) {
        Optional<Source> source = connections.source(book.source());
        Optional<Policy> policy = policies.of(book.person());
        if (!book.outgoing() || source.isEmpty() || policy.isEmpty()) {
            return List.of();
        }
        return books.namesOut(book.person(), source.get(), policy.get().books(), most);
    }
}
