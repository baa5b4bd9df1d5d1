package jandrel.store.directory;

import jandrel.core.directory.RecordKind;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Takes contacts out of the lists, for other subjects than the directory. What they wrote is still matched to them. */
@Component
public class Retiring {
    private final DirectoryVersions versions;
    private final Journal journal;

    Retiring(DirectoryVersions versions, Journal journal) {
        this.versions = versions;
        this.journal = journal;
    }

    @Transactional
    public void archive(UUID contact, String by) {
        if (versions.archive(RecordKind.CONTACT, new UUID[] {contact}, true) > 0) {
            journal.add(by, "archived", new Thing("contact", contact.toString(), ""), null, null);
        }
    }
}
