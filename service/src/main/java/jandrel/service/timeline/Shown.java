package jandrel.service.timeline;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.DecisionApi.ReasonInfo;
import jandrel.core.item.Inside;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.Timelines.Entry;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Puts what the store lets out into the API's words. What an outline lacks is not there to be shown. */
public final class Shown {
    private Shown() {}

    public static ActivityInfo activity(Entry e) {
        MeetingItem meeting = e.item() instanceof MeetingItem m ? m : null;
        return new ActivityInfo(
                e.id(),
                e.kind(),
                e.at(),
                e.ends(),
                e.allDay(),
                meeting == null || meeting.zone().equals(MeetingItem.UNKNOWN_ZONE) ? "" : meeting.zone(),
                e.visibility().name().toLowerCase(Locale.ROOT),
                e.item() == null ? "" : e.item().subject(),
                people(e.item()),
                meeting == null ? "" : meeting.place(),
                meeting == null ? "" : meeting.online(),
                e.owners().stream().map(o -> new OwnerInfo(o.id(), o.name())).toList(),
                e.evidence(),
                e.mark(),
                meeting == null ? "" : meeting.sort().word());
    }

    /** Who wrote the message that this one passes on. */
    public static @Nullable PartyInfo forwarded(@Nullable Item item) {
        Inside.Forwarded inner = item instanceof MailItem mail ? mail.inside().forwarded() : null;
        return inner == null ? null : new PartyInfo("from", inner.from().toString(), inner.name());
    }

    static List<PartyInfo> people(@Nullable Item item) {
        return item == null
                ? List.of()
                : item.parties().stream()
                        .map(p -> new PartyInfo(
                                p.part().name().toLowerCase(Locale.ROOT),
                                p.address().toString(),
                                p.name()))
                        .toList();
    }

    public static DecisionInfo decision(Decisions.Shown d) {
        return new DecisionInfo(
                d.id(),
                d.itemId(),
                d.kind(),
                d.at(),
                d.person(),
                d.personName(),
                d.source(),
                d.position(),
                d.verdict().word(),
                d.visibility().name().toLowerCase(Locale.ROOT),
                d.item() == null ? "" : d.item().subject(),
                people(d.item()),
                d.sentences(),
                d.trail().stream()
                        .map(r -> new ReasonInfo(r.rule().name().toLowerCase(Locale.ROOT), r.facts()))
                        .toList(),
                d.pending(),
                d.activity() ? d.itemId() : null);
    }
}
