package jandrel.service.retention;

import jandrel.core.journal.Entry;
import jandrel.store.journal.Journal;
import org.springframework.boot.ApplicationArguments;
import org.springframework.boot.ApplicationRunner;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The journal that was taken in goes on with that it was. */
@Component
class TakenIn implements ApplicationRunner {
    private final Journal journal;

    TakenIn(Journal journal) {
        this.journal = journal;
    }

    @Override
    @Transactional
    public void run(ApplicationArguments arguments) {
        String written = System.clearProperty(TakingIn.TAKEN);
        if (written != null) {
            journal.add("service", "taken in", new Entry.Thing("everything", "", "everything"), null, written);
        }
    }
}
