package jandrel.bench;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.ImportRejected;
import jandrel.demo.Stand;
import jandrel.store.capture.Reconsidering;
import jandrel.store.directory.Directory;
import java.sql.SQLException;
import java.util.List;

/** Adding one contact among a million items, of which 10 or 10,000 carry the address: the cost must be theirs, not the million's. */
final class OneContact {
    private final Stand stand;

    OneContact(Stand stand) {
        this.stand = stand;
    }

    void run() throws SQLException, ImportRejected {
        try (Opened store = new Opened(stand, "bench_contact")) {
            Database database = store.database();
            RehearsalBench.fill(database);
            carry(database, "ten@few.example", 10, 3);
            carry(database, "many@few.example", 10_000, 7);
            database.run("VACUUM ANALYZE sighting");
            Directory directory = store.bean(Directory.class);
            Reconsidering reconsidering = store.bean(Reconsidering.class);
            contact(directory, reconsidering, "warm", "nobody@few.example");
            double ten = contact(directory, reconsidering, "ten", "ten@few.example");
            double many = contact(directory, reconsidering, "many", "many@few.example");
            Figures.line("one new contact among 1 M items, on 10 of them", "%.0f ms", ten * 1e3);
            Figures.line(
                    "one new contact among 1 M items, on 10,000",
                    "%.2f s   %.2f ms an item",
                    many,
                    many * 1e3 / 10_000);
            long linked = database.count("SELECT count(DISTINCT activity) FROM link WHERE kind = 'contact'");
            if (linked != 10_010) {
                throw new IllegalStateException("linked " + linked + " of 10,010");
            }
        }
    }

    /** Some of the items get an address that nobody has yet. */
    private static void carry(Database database, String address, int items, int step) throws SQLException {
        database.run("""
                UPDATE sighting SET keys = keys || ARRAY['%1$s', '@few.example'],
                    facts = replace(facts, '"p@corvane.example"', '"%1$s"')
                WHERE id IN (SELECT md5('s' || n * 20 + %3$d)::uuid FROM generate_series(1, %2$d) n)""".formatted(address, items, step));
    }

    private static double contact(Directory directory, Reconsidering reconsidering, String key, String address)
            throws ImportRejected {
        long began = System.nanoTime();
        directory.contacts(List.of(new ContactRow(
                1, key, "Contact " + key, List.of(EmailAddress.of(address)), List.of(), "", "", null, null)));
        while (reconsidering.next() > 0) {
            // the next batch
        }
        return (System.nanoTime() - began) / 1e9;
    }
}
