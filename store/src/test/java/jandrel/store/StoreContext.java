package jandrel.store;

import jandrel.demo.Stand;
import jandrel.store.kernel.ItemKeys;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.autoconfigure.EnableAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;

/** The store alone, on a database of its own at the stand's PostgreSQL. */
public final class StoreContext implements AutoCloseable {
    private final ConfigurableApplicationContext context;

    @Configuration(proxyBeanMethods = false)
    @EnableAutoConfiguration
    @Import(StoreConfiguration.class)
    static class Application {
        @Bean
        Clock clock() {
            return Clock.systemUTC();
        }

        @Bean
        ItemKeys itemKeys() {
            return new ItemKeys(new byte[32]);
        }
    }

    public StoreContext(String database) throws SQLException {
        this(database, true);
    }

    /** A second node on a database that is there. */
    public static StoreContext beside(String database) throws SQLException {
        return new StoreContext(database, false);
    }

    private StoreContext(String database, boolean anew) throws SQLException {
        Stand stand = Stand.fromEnvironment();
        String server = "jdbc:postgresql://" + stand.value("POSTGRES") + "/";
        String password = stand.value("POSTGRES_PASSWORD");
        if (anew) {
            EmptyDatabase.make(database);
        }
        context = new SpringApplicationBuilder(Application.class)
                .web(WebApplicationType.NONE)
                .properties(Map.of(
                        // the service's own settings are none of ours
                        "spring.config.name", "none",
                        "spring.datasource.url", server + database,
                        "spring.datasource.username", "jandrel",
                        "spring.datasource.password", password,
                        "spring.datasource.hikari.maximum-pool-size", "6",
                        // as the service has it
                        "spring.datasource.hikari.connection-init-sql", "SET jit = off",
                        "spring.main.banner-mode", "off",
                        "logging.level.root", "warn",
                        // where writes fail on purpose
                        "logging.level.jandrel.service", "error"))
                .run();
    }

    public <T> T get(Class<T> type) {
        return context.getBean(type);
    }

    /** A single number from the database. */
    public long count(String sql) throws SQLException {
        try (Connection c = get(DataSource.class).getConnection();
                Statement s = c.createStatement();
                var rows = s.executeQuery(sql)) {
            rows.next();
            return rows.getLong(1);
        }
    }

    public String text(String sql) throws SQLException {
        try (Connection c = get(DataSource.class).getConnection();
                Statement s = c.createStatement();
                var rows = s.executeQuery(sql)) {
            rows.next();
            return String.valueOf(rows.getString(1));
        }
    }

    public void run(String sql) throws SQLException {
        try (Connection c = get(DataSource.class).getConnection();
                Statement s = c.createStatement()) {
            s.execute(sql);
        }
    }

    @Override
    public void close() {
        context.close();
    }
}
