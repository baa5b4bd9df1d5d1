package jandrel.service.kernel;

import com.zaxxer.hikari.HikariDataSource;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.jdbc.autoconfigure.DataSourceProperties;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.jdbc.datasource.lookup.AbstractRoutingDataSource;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Two pools of database connections: one for requests, one for everything else. However many connections capture holds, a page
 * does not wait for one of those, nor does capture wait for a crowd of pages.
 */
@Configuration(proxyBeanMethods = false)
class Pools {
    private enum Pool {
        PEOPLE,
        CAPTURE
    }

    private static final ThreadLocal<Pool> POOL = ThreadLocal.withInitial(() -> Pool.CAPTURE);

    @Bean(defaultCandidate = false)
    @ConfigurationProperties("spring.datasource.hikari")
    HikariDataSource peoplePool(DataSourceProperties database, @Value("${jandrel.database.for-people}") int most) {
        return pool(database, "people", most);
    }

    @Bean(defaultCandidate = false)
    @ConfigurationProperties("spring.datasource.hikari")
    HikariDataSource capturePool(DataSourceProperties database, @Value("${jandrel.database.for-capture}") int most) {
        return pool(database, "capture", most);
    }

    private static HikariDataSource pool(DataSourceProperties database, String name, int most) {
        HikariDataSource pool = database.initializeDataSourceBuilder()
                .type(HikariDataSource.class)
                .build();
        pool.setPoolName(name);
        pool.setMaximumPoolSize(most);
        return pool;
    }

    @Bean
    DataSource dataSource(
            @Qualifier("peoplePool") DataSource peoplePool, @Qualifier("capturePool") DataSource capturePool) {
        return routed(peoplePool, capturePool);
    }

    static DataSource routed(DataSource people, DataSource capture) {
        AbstractRoutingDataSource routed = new AbstractRoutingDataSource() {
            @Override
            protected Object determineCurrentLookupKey() {
                return POOL.get();
            }
        };
        routed.setTargetDataSources(Map.of(Pool.PEOPLE, people, Pool.CAPTURE, capture));
        routed.afterPropertiesSet();
        return routed;
    }

    /** What this thread does until it ends is done for somebody who waits. */
    static final class ForPeople implements AutoCloseable {
        ForPeople() {
            POOL.set(Pool.PEOPLE);
        }

        @Override
        public void close() {
            POOL.remove();
        }
    }

    @Bean
    OncePerRequestFilter requestsForPeople() {
        return new RequestsForPeople();
    }

    /** Before all others, as they ask the database, too. */
    @Order(Ordered.HIGHEST_PRECEDENCE)
    private static final class RequestsForPeople extends OncePerRequestFilter {
        @Override
        protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
                throws ServletException, IOException {
            try (ForPeople people = new ForPeople()) {
                chain.doFilter(request, response);
            }
        }
    }
}
