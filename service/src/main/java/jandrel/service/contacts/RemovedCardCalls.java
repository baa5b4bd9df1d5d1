package jandrel.service.contacts;

import jandrel.api.ContactApi.RemovedAnswer;
import jandrel.api.ContactApi.RemovedCard;
import jandrel.api.ContactApi.RemovedOutcome;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.contacts.RemovedCards;
import jandrel.store.contacts.RemovedContact;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Contacts that one side removed, where a person says what becomes of the other. */
@RestController
class RemovedCardCalls {
    private final RemovedCards removed;
    private final SyncScheduler looks;

    RemovedCardCalls(RemovedCards removed, SyncScheduler looks) {
        this.removed = removed;
        this.looks = looks;
    }

    @GetMapping("/api/cards/removed")
    List<RemovedCard> waiting(@AuthenticationPrincipal SignedIn me) {
        return removed.waiting(OpenCardCalls.whose(me)).stream()
                .map(r -> new RemovedCard(
                        r.id(),
                        r.name(),
                        r.contact(),
                        r.here() ? "here" : "book",
                        r.personName(),
                        r.label(),
                        r.at(),
                        r.elsewhere()))
                .toList();
    }

    /** Those of somebody else's books, and those that wait no more, are passed over. */
    @PostMapping("/api/cards/removed")
    RemovedOutcome answer(@RequestBody RemovedAnswer answer, @AuthenticationPrincipal SignedIn me) {
        boolean removes = switch (answer.choice()) {
            case "remove" -> true;
            case "keep" -> false;
            default ->
                throw Refusal.bad("There is no choice “" + answer.choice() + "”", "Choices are remove and keep.");
        };
        if (answer.ids().size() > RemovedCards.MOST) {
            throw Refusal.bad("These are too many at once", "At most " + RemovedCards.MOST + ".");
        }
        List<RemovedContact> theirs = removed.waiting(answer.ids(), OpenCardCalls.whose(me));
        if (theirs.isEmpty()) {
            throw Refusal.notFound("contact that waits for an answer");
        }
        List<RemovedContact> answered = removed.answer(theirs, removes, me.login());
        answered.stream().map(RemovedContact::connection).distinct().forEach(looks::now);
        return new RemovedOutcome(answered.size());
    }
}
