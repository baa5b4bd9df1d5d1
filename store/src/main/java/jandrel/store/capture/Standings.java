package jandrel.store.capture;

import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.ManualOverride;
import jandrel.core.decide.SourceContext;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Viewer;
import jandrel.store.connections.Connections;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.Json;
import jandrel.store.policy.Cover;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** How each source stands: whose it is, since when, and under which policy. Whatever decides, asks here. */
@Component
public class Standings {
    private static final String HANDED_OVER = "sent to the service’s own address";
    private static final String MADE_HERE = "made here";
    private static final String IN_THE_FOLDER = "put into a folder for it";
    private final IntakeMapper mapper;
    private final Slices slices;

    /** @param counts the kind of server where all that is put into the source counts by hand; else empty */
    public record Standing(SourceContext vantage, Policy policy, String counts) {
        public Decision decide(Item item, boolean gone, ManualOverride hand, DirectorySlice slice) {
            SourceContext now = gone ? vantage.asGone(true) : vantage;
            ManualOverride chosen = hand.choice() == ManualOverride.Choice.NONE && !counts.isEmpty()
                    ? ManualOverride.count(Map.of("smtp", HANDED_OVER, Connections.HERE, MADE_HERE)
                            .getOrDefault(counts, IN_THE_FOLDER))
                    : hand;
            return Decider.decide(
                    item, chosen.choice() == ManualOverride.Choice.NONE ? now : now.with(chosen), policy, slice);
        }

        /** Whether its mailbox carries a keyword while it is logged. */
        boolean marks(Item item) {
            return item instanceof MailItem
                    && !policy.handling().loggedKeyword().isEmpty();
        }
    }

    Standings(IntakeMapper mapper, Slices slices) {
        this.mapper = mapper;
        this.slices = slices;
    }

    /** By source; one whose person no policy has ever had is not among them. */
    public Map<Integer, Standing> of(Collection<Integer> sources) {
        return of(sources, Map.of());
    }

    /** @param moved people who would be under another policy than they are */
    public Map<Integer, Standing> of(Collection<Integer> sources, Map<UUID, Cover.Move> moved) {
        Map<Integer, Standing> standings = new HashMap<>();
        for (IntakeMapper.Standing s : mapper.standings(sources.toArray(Integer[]::new))) {
            Cover.Move move = moved.get(s.person());
            if (move != null) {
                Instant since = move.since(s.connectedDay()).orElse(s.since());
                standings.put(s.source(), new Standing(vantage(s, since), move.after(), s.counts()));
            } else if (s.rules() != null) {
                standings.put(s.source(), new Standing(vantage(s, s.since()), Json.policy(s.rules()), s.counts()));
            }
        }
        return standings;
    }

    private static SourceContext vantage(IntakeMapper.Standing s, Instant since) {
        Instant until = s.coverUntil() == null
                ? null
                : s.coverUntil().atStartOfDay(ZoneOffset.UTC).toInstant();
        return new SourceContext(s.person(), Viewer.team(s.team()), since, until, Sharing.valueOf(s.sharing()))
                .withCalendar(s.calendar());
    }

    /**
     * Decides stored sightings again; what their decisions need is all in their facts.
     *
     * @param nowGone whether they have just gone from their source
     */
    List<DecidedItem> decided(List<RecordMapper.Stored> rows, boolean nowGone) {
        Map<Integer, Standing> standings =
                of(rows.stream().map(RecordMapper.Stored::source).distinct().toList());
        List<Item> items = new ArrayList<>();
        rows.forEach(r -> {
            if (r.facts() != null) {
                items.add(Json.item(r.kind(), r.facts()));
            }
        });
        DirectorySlice slice = slices.of(items);
        List<DecidedItem> observed = new ArrayList<>(rows.size());
        int next = 0;
        for (RecordMapper.Stored row : rows) {
            Standing standing = standings.get(row.source());
            boolean gone = nowGone || row.gone();
            if (row.facts() == null) {
                observed.add(DecidedItem.again(row, null, true, false, Dealings.NONE, Decider.gone()));
            } else {
                Item item = items.get(next++);
                Decision decision = standing == null
                        ? Decider.notCovered()
                        : standing.decide(item, gone, Hands.of(row.hand()), slice);
                boolean marked = standing != null && !gone && standing.marks(item);
                observed.add(DecidedItem.again(row, item, gone, marked, Dealings.of(item, decision, slice), decision));
            }
        }
        return observed;
    }
}
