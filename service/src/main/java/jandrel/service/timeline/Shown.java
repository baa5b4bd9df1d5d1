package jandrel.service.timeline;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.FoundInfo;
import jandrel.api.ActivityApi.MarkInfo;
import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.DecisionApi.ReasonInfo;
import jandrel.core.item.Inside;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.search.Marks;
import jandrel.formats.mail.NewText;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.Search.Hit;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Preview;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Puts what the store lets out into the API's words. What an outline lacks is not there to be shown. */
public final class Shown {
    private static final Preview NOTHING = new Preview("", 0);
    private static final int LONGEST_SNIPPET = 160;
    private static final int MOST_LINES = 20;

    private Shown() {}

    /** One of many, where a preview would not be looked at. */
    public static ActivityInfo activity(Entry e) {
        return activity(e, NOTHING, 0);
    }

    /** @param conversations the newest first, of those that have any */
    static List<ActivityInfo> activities(
            List<Entry> entries, Map<UUID, Preview> previews, Map<UUID, List<UUID>> conversations) {
        return entries.stream()
                .map(e -> activity(
                        e,
                        previews.getOrDefault(e.id(), NOTHING),
                        conversations.getOrDefault(e.id(), List.of()).size()))
                .toList();
    }

    static ActivityInfo activity(Entry e, Preview preview, int conversation) {
        return activity(e, snippet(e, preview.text()), preview.attachments(), conversation);
    }

    /** One that was found, by what stands around the words that were looked for. */
    static FoundInfo found(Hit hit) {
        Marks.Line line = Marks.line(hit.text(), hit.found(), LONGEST_SNIPPET);
        return new FoundInfo(
                activity(hit.entry(), line.text(), hit.attachments(), 0),
                marks(Marks.of(hit.subject(), hit.found())),
                marks(line.marks()));
    }

    private static List<MarkInfo> marks(List<Marks.Mark> marks) {
        return marks.stream().map(m -> new MarkInfo(m.from(), m.length())).toList();
    }

    private static ActivityInfo activity(Entry e, String snippet, int attachments, int conversation) {
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
                snippet,
                attachments,
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
