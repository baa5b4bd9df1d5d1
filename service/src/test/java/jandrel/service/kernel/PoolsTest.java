package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.zaxxer.hikari.HikariDataSource;
import jandrel.demo.Stand;
import java.sql.Connection;
import java.sql.SQLTransientConnectionException;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;

/** Requests and capture take their database connections from pools of their own. */
class PoolsTest {
    private static final int SIZE = 2;

    private static HikariDataSource pool() {
        Stand stand = Stand.fromEnvironment();
        HikariDataSource pool = new HikariDataSource();
        pool.setJdbcUrl("jdbc:postgresql://" + stand.value("POSTGRES") + "/jandrel");
        pool.setUsername("jandrel");
        pool.setPassword(stand.value("POSTGRES_PASSWORD"));
        pool.setMaximumPoolSize(SIZE);
        pool.setConnectionTimeout(300);
        return pool;
    }

    private static void exhaust(DataSource from, List<Connection> held) throws Exception {
        for (int i = 0; i < SIZE; i++) {
            held.add(from.getConnection());
        }
        assertThatThrownBy(from::getConnection).isInstanceOf(SQLTransientConnectionException.class);
    }

    @Test
    void noneWaitsForTheOthersConnections() throws Exception {
        List<Connection> held = new ArrayList<>();
        try (HikariDataSource people = pool();
                HikariDataSource capture = pool()) {
            DataSource routed = Pools.routed(people, capture);
            exhaust(routed, held);
            try (Pools.ForPeople ours = new Pools.ForPeople()) {
                exhaust(routed, held);
            }
            held.remove(0).close();
            held.add(routed.getConnection());
            assertThat(capture.getHikariPoolMXBean().getActiveConnections()).isEqualTo(SIZE);
            assertThat(people.getHikariPoolMXBean().getActiveConnections()).isEqualTo(SIZE);
            for (Connection c : held) {
                c.close();
            }
        }
    }
}
