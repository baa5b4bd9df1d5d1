package jandrel.service.meetings;

import jandrel.api.ConnectionApi.HeldInfo;
import jandrel.api.ConnectionApi.HeldMeeting;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.connections.Connecting;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.journal.Journal;
import jandrel.store.timeline.Decisions;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What vanished from a calendar at once waits until somebody says that it is meant. */
@RestController
class HeldCalls {
    private final Connections connections;
    private final Connecting connecting;
    private final Decisions decisions;
    private final SyncScheduler looks;
    private final Journal journal;
    private final TransactionTemplate transactions;

    HeldCalls(
            Connections connections,
            Connecting connecting,
            Decisions decisions,
            SyncScheduler looks,
            Journal journal,
            TransactionTemplate transactions) {
        this.connections = connections;
        this.connecting = connecting;
        this.decisions = decisions;
        this.looks = looks;
        this.journal = journal;
        this.transactions = transactions;
    }

    /** What vanished from a calendar at once, so that it is left alone until somebody lets that pass. */
    @GetMapping("/api/sources/{id}/held")
    HeldInfo held(@PathVariable("id") int id, @AuthenticationPrincipal SignedIn me) {
        Source source = heldSource(id, me);
        List<HeldMeeting> vanished = decisions.at(id, List.of(source.heldPositions()), me.viewer()).stream()
                .map(d ->
                        new HeldMeeting(d.at(), d.item() == null ? "" : d.item().subject()))
                .toList();
        return new HeldInfo(id, held(source) + " vanished at once", vanished);
    }

    private Source heldSource(int id, SignedIn me) {
        Source source = connections
                .source(id)
                .filter(s -> s.heldCount() > 0)
                .orElseThrow(() -> Refusal.notFound("calendar that is held"));
        connecting.mayChange(source.connection(), me);
        return source;
    }

    /** It is meant: what vanished leaves the timelines as the policy says. */
    @PostMapping("/api/sources/{id}/let-pass")
    @ResponseStatus(HttpStatus.ACCEPTED)
    void letPass(@PathVariable("id") int id, @AuthenticationPrincipal SignedIn me) {
        Source source = heldSource(id, me);
        transactions.executeWithoutResult(t -> letPass(source, me));
        looks.now(source.connection());
    }

    private void letPass(Source source, SignedIn me) {
        connections.letPass(source.id());
        journal.add(
                me.login(),
                "let pass",
                new Thing("source", String.valueOf(source.id()), source.label()),
                null,
                held(source));
    }

    private static String held(Source source) {
        return source.heldCount() + " of " + source.heldKnown();
    }
}
