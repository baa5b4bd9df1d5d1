package jandrel.service.retention;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.core.journal.Entry;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.SealedStreams;
import jandrel.service.people.SignedIn;
import jandrel.store.journal.Journal;
import jandrel.store.retention.Everything;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Clock;
import java.util.concurrent.atomic.AtomicBoolean;
import org.springframework.boot.jdbc.autoconfigure.DataSourceProperties;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** All that is kept here leaves as one file. It is sealed: who fetches it may not read everything in it. */
@RestController
class EverythingCalls {
    private final DataSourceProperties database;
    private final SealedStreams sealed;
    private final Journal journal;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final AtomicBoolean underWay = new AtomicBoolean();

    EverythingCalls(
            DataSourceProperties database,
            SealedStreams sealed,
            Journal journal,
            TransactionTemplate transactions,
            Clock clock) {
        this.database = database;
        this.sealed = sealed;
        this.journal = journal;
        this.transactions = transactions;
        this.clock = clock;
    }

    /** A file that only an installation with this key file opens: docs/exports.md. */
    @GetMapping(path = "/api/export/everything", produces = "application/octet-stream")
    void everything(@AuthenticationPrincipal SignedIn me, HttpServletResponse response)
            throws IOException, SQLException {
        if (!underWay.compareAndSet(false, true)) {
            throw Refusal.of(
                    HttpStatus.TOO_MANY_REQUESTS,
                    "An export of everything is under way",
                    "Try again when it has come to its end.");
        }
        // one of its own: it is in use for as long as the file takes, and people wait for those of the pools
        try (Connection own = DriverManager.getConnection(
                database.determineUrl(), database.determineUsername(), database.determinePassword())) {
            transactions.executeWithoutResult(
                    t -> journal.add(me.login(), "exported", new Entry.Thing("everything", "", ""), null, null));
            response.setContentType("application/octet-stream");
            response.setHeader("Content-Disposition", "attachment; filename=everything.jandrel");
            Everything.write(own, sealed.check(), clock.instant(), sealed.seal(response.getOutputStream()));
        } finally {
            underWay.set(false);
        }
    }
}
