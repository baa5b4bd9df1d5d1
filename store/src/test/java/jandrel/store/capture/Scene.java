package jandrel.store.capture;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.item.Content;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.policy.Policy;
import jandrel.store.StoreContext;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.directory.Company;
import jandrel.store.directory.Directory;
import jandrel.store.people.People;
import jandrel.store.people.PeopleImport;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;

/** Some people, some customers and their sources, in a database. */
public final class Scene {
    public static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");
    final StoreContext store;

    private Scene(StoreContext store) {
        this.store = store;
    }

    /** An empty company, under the one policy that was there at first. */
    public static Scene anew(StoreContext store) throws SQLException {
        store.run(
                "TRUNCATE person, account, contact, opportunity, server, pin, stranger, stranger_phone, wrote, stranger_hidden, sighting, activity, body, link, reconsider,"
                        + " exclusion, ruling, cover CASCADE");
        store.run("UPDATE policy SET archived = id <> '" + Policy.FIRST + "'");
        return new Scene(store);
    }

    public Scene people(int count) throws ImportRejected {
        List<PersonRow> rows = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            rows.add(new PersonRow(
                    i + 2, "p" + i, "Person " + i, addresses("p" + i + "@corvane.example"), "East", "rep"));
        }
        store.get(PeopleImport.class).take(rows);
        store.get(Company.class).change(List.of("@corvane.example"), List.of("@free.example"), "t");
        return this;
    }

    public UUID person(int i) {
        return store.get(People.class).find("p" + i).orElseThrow().id();
    }

    /** A mailbox's folder of the person, from 1 January on. */
    public SourceRef place(int person) {
        return place(person, "imap", "folder", "INBOX");
    }

    public SourceRef calendar(int person) {
        return place(person, "caldav", "calendar", "/cal/");
    }

    private SourceRef place(int person, String protocol, String kind, String name) {
        Connections connections = store.get(Connections.class);
        Server server = Server.of(UUID.randomUUID(), "s" + UUID.randomUUID(), protocol, "h", 1, "/");
        connections.addServer(server);
        Instant since = Instant.parse("2026-01-01T00:00:00Z");
        UUID id = UUID.randomUUID();
        connections.add(
                Connection.fresh(id, person(person), server.id(), "a", new byte[1], since, "connecting"), NOON, "");
        connections.addSource(id, kind, name, name);
        return new SourceRef(connections.sources(id).get(0).id(), person(person), since, SourceRef.ANY);
    }

    /** The same source as a look has it that begins now. */
    SourceRef looking(SourceRef place) {
        Connections connections = store.get(Connections.class);
        UUID connection = connections.source(place.source()).orElseThrow().connection();
        Connection now = connections.connection(connection).orElseThrow();
        return new SourceRef(place.source(), place.person(), now.since(), now.generation());
    }

    void state(SourceRef place, String state) {
        Connections connections = store.get(Connections.class);
        connections.state(connections.source(place.source()).orElseThrow().connection(), state, "");
    }

    public Scene account(String key, String... domains) throws ImportRejected {
        store.get(Directory.class)
                .accounts(List.of(new AccountRow(
                        2,
                        key,
                        "Account " + key,
                        Arrays.stream(domains).map(DomainName::of).toList(),
                        "",
                        "")));
        return this;
    }

    public Scene contact(String key, String account, String... addresses) throws ImportRejected {
        store.get(Directory.class)
                .contacts(List.of(new ContactRow(
                        2, key, "Contact " + key, addresses(addresses), List.of(), account, "", null, null)));
        return this;
    }

    /** @param since the first day at that account */
    Scene contactSince(String key, String account, LocalDate since, String... addresses) throws ImportRejected {
        store.get(Directory.class)
                .contacts(List.of(new ContactRow(
                        2, key, "Contact " + key, addresses(addresses), List.of(), account, "", null, since)));
        return this;
    }

    Scene accountPartOf(String key, String above) throws ImportRejected {
        store.get(Directory.class).accounts(List.of(new AccountRow(2, key, "Account " + key, List.of(), "", above)));
        return this;
    }

    Scene opportunity(String key, String account, OpportunityState state) throws ImportRejected {
        store.get(Directory.class)
                .opportunities(List.of(new OpportunityRow(
                        2,
                        key,
                        "Opp " + key,
                        account,
                        "",
                        state,
                        null,
                        "",
                        DirectoryRows.Period.ONCE,
                        "",
                        "",
                        List.of())));
        return this;
    }

    public static List<EmailAddress> addresses(String... texts) {
        return Arrays.stream(texts).map(EmailAddress::of).toList();
    }

    public static MailItem mail(String id, String from, String... to) {
        List<Party> parties = new ArrayList<>(List.of(new Party(Part.FROM, EmailAddress.of(from), "")));
        Arrays.stream(to).forEach(t -> parties.add(new Party(Part.TO, EmailAddress.of(t), "")));
        return new MailItem("mail:" + id, NOON, true, parties, "About " + id, Nature.ORDINARY)
                .saying(Sketch.of("text of mail:" + id));
    }

    static MailItem bulk(String id, String from, String to) {
        MailItem mail = mail(id, from, to);
        return new MailItem(
                        mail.identity(),
                        NOON,
                        true,
                        mail.parties(),
                        mail.subject(),
                        new Nature(Nature.Kind.BULK, "Precedence: bulk"))
                .saying(mail.sketch());
    }

    public static FetchedItem seen(String position, MailItem item) {
        return new FetchedItem(
                position, item, () -> new Content("text of " + item.identity() + item.sketch(), "", List.of()));
    }

    /** Decides all that waits to be decided again. */
    public void settle() {
        while (store.get(Reconsidering.class).next() > 0) {
            // the next batch
        }
    }
}
