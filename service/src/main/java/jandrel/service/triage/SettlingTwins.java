package jandrel.service.triage;

import jandrel.api.TriageApi.Settled;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.Merging;
import jandrel.store.directory.RecordRef;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.triage.KeptApart;
import jandrel.store.triage.Strangers;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Does what somebody chose about two records that may be one. */
@Component
class SettlingTwins {
    private final KeptApart apart;
    private final Targets targets;
    private final Merging merging;
    private final Strangers strangers;
    private final Journal journal;
    private final Reopener reopener;

    SettlingTwins(
            KeptApart apart,
            Targets targets,
            Merging merging,
            Strangers strangers,
            Journal journal,
            Reopener reopener) {
        this.apart = apart;
        this.targets = targets;
        this.merging = merging;
        this.strangers = strangers;
        this.journal = journal;
        this.reopener = reopener;
    }

    /** Makes one record of two of a kind; the one that stays keeps what both have. */
    @Transactional
    Settled merge(UUID stays, UUID goes, SignedIn me) {
        RecordRef stay = targets.any(stays);
        RecordRef go = targets.any(goes);
        if (stays.equals(goes)) {
            throw Refusal.bad("This is one " + stay.kind() + " already", "Choose two.");
        }
        if (!stay.kind().equals(go.kind())) {
            throw Refusal.bad(
                    "These are two kinds of records",
                    "“" + go.name() + "” is of the kind " + go.kind() + ", “" + stay.name() + "” of the kind "
                            + stay.kind() + ". Choose two of one kind.");
        }
        if (!Merging.KINDS.contains(stay.kind())) {
            throw Refusal.bad("Opportunities are not merged", "Archive the one that is too many.");
        }
        long waiting = reopener.left();
        String before = merging.merge(stay.kind(), stays, goes);
        String says = "merged " + go.name() + " into " + stay.name();
        UUID deed = strangers.done(
                me.login(),
                says,
                Undo.nothing().merged(stay.kind(), stays, before).text());
        journal.add(me.login(), "merged", new Thing(stay.kind(), stays.toString(), stay.name()), null, says);
        return new Settled(deed, says, 0, Math.max(0, reopener.left() - waiting));
    }

    /** Says that two records that look alike are two. */
    @Transactional
    Settled apart(UUID one, UUID other, SignedIn me) {
        RecordRef first = targets.any(one);
        RecordRef second = targets.any(other);
        if (one.equals(other)) {
            throw Refusal.bad("This is one " + first.kind(), "Choose two.");
        }
        String kind = first.kind();
        if (!KeptApart.isOf(kind) || !second.kind().equals(kind)) {
            throw Refusal.bad("Nobody takes these for one", "Choose two contacts, or two accounts.");
        }
        apart.put(kind, one, other, me.login());
        String are = kind.equals("contact") ? " are two people" : " are two customers";
        String says = first.name() + " and " + second.name() + are;
        UUID deed = strangers.done(
                me.login(), says, Undo.nothing().apart(kind, one, other).text());
        journal.add(me.login(), "told apart", new Thing(kind, one.toString(), first.name()), null, says);
        return new Settled(deed, says, 0, 0);
    }

    /** What of a choice was about two records. */
    void takeBack(Undo undo) {
        String kind = undo.kind() == null ? "contact" : undo.kind();
        if (undo.before() != null && undo.contact() != null) {
            try {
                merging.split(kind, undo.contact(), undo.before());
            } catch (Merging.NoWayBack no) {
                throw Refusal.of(
                        HttpStatus.CONFLICT, "It cannot be undone as things are", String.valueOf(no.getMessage()));
            }
        }
        if (!undo.apart().isEmpty()) {
            apart.forget(kind, undo.apart().get(0), undo.apart().get(1));
        }
    }
}
