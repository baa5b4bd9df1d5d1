package jandrel.store.kernel;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.springframework.stereotype.Component;

/** Tells every node what has changed, and only that: ids of records whose timelines have, and kinds of things that the journal tells of. */
@Component
public class News {
    /** Stands for more records than are named. */
    public static final String MANY = "*";

    /** Begins the name of a kind of things, as the journal has it. */
    public static final String KIND = "#";

    /** Begins the id of a sign-in whose notices have changed; nobody else hears of it. */
    public static final String OF_SIGN_IN = "@";

    /** On a channel whose name is kept where only the service reads: of those who are let into the database, nobody else says or hears it. */
    public static final String ANNOUNCE = "SELECT count(pg_notify((SELECT name FROM news_channel), #{words}))";

    private static final int MOST = 60;
    private final DataSource dataSource;

    News(DataSource dataSource) {
        this.dataSource = dataSource;
    }

    public static String words(Set<UUID> records) {
        return records.size() > MOST || records.isEmpty()
                ? MANY
                : String.join(" ", records.stream().map(UUID::toString).toList());
    }

    /** @param kinds of things, such as policy */
    public static String kinds(Set<String> kinds) {
        return kinds.stream().sorted().map(KIND::concat).collect(Collectors.joining(" "));
    }

    /** What is heard on one connection. Not safe for several threads. */
    public final class Listening implements AutoCloseable {
        private final Connection connection;

        private Listening() throws SQLException {
            connection = dataSource.getConnection();
            try (var statement = connection.createStatement();
                    var channel = statement.executeQuery("SELECT quote_ident(name) FROM news_channel")) {
                channel.next();
                String name = channel.getString(1);
                statement.execute("LISTEN " + name);
            } catch (SQLException failed) {
                connection.close();
                throw failed;
            }
        }

        /** Waits for news; empty when there was none for so long. */
        public List<String> next(int millis) throws SQLException {
            PGNotification[] heard = connection.unwrap(PGConnection.class).getNotifications(millis);
            List<String> words = new ArrayList<>();
            for (PGNotification n : heard == null ? new PGNotification[0] : heard) {
                words.add(n.getParameter());
            }
            return words;
        }

        @Override
        public void close() throws SQLException {
            try (var statement = connection.createStatement()) {
                statement.execute("UNLISTEN *");
            } finally {
                connection.close();
            }
        }
    }

    public Listening listen() throws SQLException {
        return new Listening();
    }
}
