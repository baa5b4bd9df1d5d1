package jandrel.service.people;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import jandrel.store.people.ReaderLogins;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;

/** Keeps readers from being at something without end, and lets them read what an update has added. */
@Configuration(proxyBeanMethods = false)
class ReaderWatch {
    /** How long a statement of theirs may take, unless their session says otherwise. */
    static final int USUAL_SECONDS = 120;

    /** How long they may be at something at most, whatever their session says. */
    static final int MOST_SECONDS = 300;

    private static final Logger LOG = LoggerFactory.getLogger(ReaderWatch.class);
    private static final Duration EVERY = Duration.ofSeconds(20);
    private final ReaderLogins readers;

    ReaderWatch(ReaderLogins readers) {
        this.readers = readers;
    }

    @Bean
    RecurringTask<Void> endLongReads() {
        return Tasks.recurring("end-long-reads", FixedDelay.of(EVERY)).execute((instance, context) -> {
            if (!readers.all().isEmpty() && readers.isPrepared()) {
                int ended = readers.endLongerThan(MOST_SECONDS);
                if (ended > 0) {
                    LOG.info("{} sessions of readers took longer than {} seconds and were ended", ended, MOST_SECONDS);
                }
            }
        });
    }

    @EventListener(ApplicationReadyEvent.class)
    void grant() {
        String[] logins = readers.all().stream().map(ReaderLogins.Reader::login).toArray(String[]::new);
        readers.existing(logins).forEach(readers::grant);
    }
}
