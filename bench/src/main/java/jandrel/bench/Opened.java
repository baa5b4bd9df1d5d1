package jandrel.bench;

import jandrel.demo.Stand;
import jandrel.store.StoreConfiguration;
import jandrel.store.kernel.ItemKeys;
import java.sql.SQLException;
import java.time.Clock;
import java.util.Map;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.autoconfigure.EnableAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;

/** The store alone, over a new database, or one that a run before left. */
final class Opened implements AutoCloseable {
    private final Database database;
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

    Opened(Stand stand, String name) throws SQLException {
        this(stand, name, false);
    }

    /** @param kept whether it is used as the run before left it */
    Opened(Stand stand, String name, boolean kept) throws SQLException {
        database = new Database(stand, name, kept);
        context = new SpringApplicationBuilder(Application.class)
                .web(WebApplicationType.NONE)
                .properties(Map.of(
                        "spring.datasource.url",
                        database.url(),
                        "spring.datasource.username",
                        "jandrel",
                        "spring.datasource.password",
                        stand.value("POSTGRES_PASSWORD"),
                        // as the service has it
                        "spring.datasource.hikari.connection-init-sql",
                        "SET jit = off",
                        "spring.main.banner-mode",
                        "off",
                        "logging.level.root",
                        "warn"))
                .run();
    }

    Database database() {
        return database;
    }

    <T> T bean(Class<T> type) {
        return context.getBean(type);
    }

    @Override
    public void close() {
        context.close();
    }
}
