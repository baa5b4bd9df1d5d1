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
import jandrel.formats.mail.NewText;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Preview;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Puts what the store lets out into the API's words. What an outline lacks is not there to be shown. */
public final class Shown {
    private static final int LONGEST_SNIPPET = 160;
    private static final int MOST_LINES = 20;

    private Shown() {}

    /** One of many, where a preview would not be looked at. */
    public static ActivityInfo activity(Entry e) {
        return activity(e, new Preview("", 0), 0);
    }

    static ActivityInfo activity(Entry e, Preview preview, int conversation) {
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
                meeting == null ? "" : meeting.sort().word(),
                e.item() instanceof MailItem ? e.ours() ? "out" : "in" : "",
                snippet(e, preview.text()),
                preview.attachments(),
                conversation);
    }

    /** The beginning of what a message adds, or of what a meeting is about, in one line: a greeting alone would say nothing. */
    private static String snippet(Entry e, String text) {
        String line = (e.item() instanceof MailItem ? NewText.of(text) : text)
                .lines()
                .limit(MOST_LINES)
                .map(String::strip)
                .filter(l -> !l.isEmpty())
                .collect(Collectors.joining(" "));
        return line.codePointCount(0, line.length()) > LONGEST_SNIPPET
                ? line.substring(0, line.offsetByCodePoints(0, LONGEST_SNIPPET)) + "…"
                : line;
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
