package jandrel.service.retention;

import jandrel.core.journal.Entry;
import jandrel.store.journal.Journal;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The journal that was taken in goes on with that it was. */
@Component
class TakenIn implements ApplicationRunner {
    private final Journal journal;
    private final String written;

    TakenIn(Journal journal, @Value("${" + TakingIn.TAKEN + ":}") String written) {
        this.journal = journal;
        this.written = written;
    }

    @Override
    @Transactional
    public void run(ApplicationArguments arguments) {
        if (!written.isEmpty()) {
            journal.add("service", "taken in", new Entry.Thing("everything", "", ""), null, written);
        }
    }
}
