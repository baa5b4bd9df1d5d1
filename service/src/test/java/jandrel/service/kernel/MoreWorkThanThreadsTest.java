package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.boot.autoconfigure.DbSchedulerAutoConfiguration;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import jandrel.demo.Stand;
import jandrel.store.EmptyDatabase;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.springframework.boot.SpringBootConfiguration;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.autoconfigure.ImportAutoConfiguration;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.flyway.autoconfigure.FlywayAutoConfiguration;
import org.springframework.boot.jdbc.autoconfigure.DataSourceAutoConfiguration;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;

/** The scheduler as the service configures it, its heartbeats quicker: what only waits for a thread is not taken for dead. */
class MoreWorkThanThreadsTest {
    private static final int WORK = 40;
    private static final Map<String, Integer> RUNS = new ConcurrentHashMap<>();

    @SpringBootConfiguration(proxyBeanMethods = false)
    @ImportAutoConfiguration({
        DataSourceAutoConfiguration.class,
        FlywayAutoConfiguration.class,
        DbSchedulerAutoConfiguration.class
    })
    static class Application {
        @Bean
        OneTimeTask<Void> slow() {
            // twice as long as a lease without a sign of life
            return Tasks.oneTime("slow").execute((instance, context) -> {
                RUNS.merge(instance.getId(), 1, Integer::sum);
                try {
                    Thread.sleep(3_000);
                } catch (InterruptedException stopped) {
                    Thread.currentThread().interrupt();
                }
            });
        }
    }

    private static ConfigurableApplicationContext start() throws Exception {
        Stand stand = Stand.fromEnvironment();
        String server = "jdbc:postgresql://" + stand.value("POSTGRES") + "/";
        String password = stand.value("POSTGRES_PASSWORD");
        EmptyDatabase.make("more_work");
        return new SpringApplicationBuilder(Application.class)
                .web(WebApplicationType.NONE)
                .run(
                        "--spring.datasource.url=" + server + "more_work",
                        "--spring.datasource.username=jandrel",
                        "--spring.datasource.password=" + password,
                        "--db-scheduler.heartbeat-interval=300ms",
                        "--db-scheduler.polling-interval=100ms",
                        "--logging.level.root=error");
    }

    @Test
    void eachRunsOnce() throws Exception {
        try (ConfigurableApplicationContext context = start()) {
            SchedulerClient scheduler = context.getBean(SchedulerClient.class);
            OneTimeTask<?> slow = context.getBean(OneTimeTask.class);
            IntStream.range(0, WORK).forEach(i -> scheduler.scheduleIfNotExists(slow.instance("w" + i), Instant.now()));
            Awaitility.await()
                    .atMost(Duration.ofSeconds(30))
                    .until(() -> scheduler.getScheduledExecutions().isEmpty());
        }
        assertThat(RUNS).hasSize(WORK);
        assertThat(RUNS.values()).containsOnly(1);
    }
}
