package jandrel.service.triage;

import jandrel.api.TriageApi.Settled;
import jandrel.core.journal.Entry.Thing;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.Amending;
import jandrel.store.directory.RecordRef;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.triage.Strangers;
import jandrel.store.triage.TwinContacts;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Does what somebody chose about two contacts that may be one. */
@Component
class SettlingTwins {
    private final TwinContacts contacts;
    private final Targets targets;
    private final Amending amending;
    private final Strangers strangers;
    private final Journal journal;
    private final Reopener reopener;

    SettlingTwins(
            TwinContacts contacts,
            Targets targets,
            Amending amending,
            Strangers strangers,
            Journal journal,
            Reopener reopener) {
        this.contacts = contacts;
        this.targets = targets;
        this.amending = amending;
        this.strangers = strangers;
        this.journal = journal;
        this.reopener = reopener;
    }

    /** Makes one contact of two; the one that stays keeps every address. */
    @Transactional
    Settled merge(UUID stays, UUID goes, SignedIn me) {
        if (stays.equals(goes)) {
            throw Refusal.bad("These are one contact already", "Choose two.");
        }
        RecordRef stay = targets.of(stays, "contact");
        RecordRef go = targets.of(goes, "contact");
        long waiting = reopener.left();
        String before = amending.merge(stays, goes);
        String says = "merged " + go.name() + " into " + stay.name();
        UUID deed = strangers.done(
                me.login(), says, Undo.nothing().merged(stays, before).text());
        journal.add(me.login(), "merged", new Thing("contact", stays.toString(), stay.name()), null, says);
        return new Settled(deed, says, 0, Math.max(0, reopener.left() - waiting));
    }

    /** Says that two contacts who look alike are two people. */
    @Transactional
    Settled apart(UUID one, UUID other, SignedIn me) {
        if (one.equals(other)) {
            throw Refusal.bad("This is one contact", "Choose two.");
        }
        RecordRef first = targets.of(one, "contact");
        RecordRef second = targets.of(other, "contact");
        contacts.keepApart(one, other, me.login());
        String says = first.name() + " and " + second.name() + " are two people";
        UUID deed = strangers.done(
                me.login(), says, Undo.nothing().apart(one, other).text());
        journal.add(me.login(), "told apart", new Thing("contact", one.toString(), first.name()), null, says);
        return new Settled(deed, says, 0, 0);
    }

    /** What of a choice was about two contacts. */
    void takeBack(Undo undo) {
        if (undo.before() != null && undo.contact() != null) {
            amending.split(undo.contact(), undo.before());
        }
        if (!undo.apart().isEmpty()) {
            contacts.forget(undo.apart().get(0), undo.apart().get(1));
        }
    }
}
