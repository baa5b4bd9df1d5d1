package jandrel.store.capture;

import jandrel.core.decide.ManualOverride;
import jandrel.store.connections.SourceItems;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Like;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** What is known of the positions at a source. */
@Component
public class Positions implements SourceItems {
    private static final int BATCH = 1_000;
    private final IntakeMapper mapper;
    private final RecordMapper records;
    private final Recorder recorder;
    private final ItemKeys keys;
    private final Outbox outbox;
    private final TransactionTemplate transactions;

    Positions(
            IntakeMapper mapper,
            RecordMapper records,
            Recorder recorder,
            ItemKeys keys,
            Outbox outbox,
            TransactionTemplate transactions) {
        this.outbox = outbox;
        this.transactions = transactions;
        this.mapper = mapper;
        this.records = records;
        this.recorder = recorder;
        this.keys = keys;
    }

    /** Positions whose item is to be fetched once more: its text is wanted, or the rule that kept it out has gone. */
    public List<String> toRefetch(int source, int most) {
        return mapper.toRefetch(source, most);
    }

    /** How many positions are still to be fetched once more, at all sources. */
    public long allToRefetch() {
        return mapper.allToRefetch();
    }

    /** The source no longer has these: what is known of them stays, without their text. */
    @Transactional
    public void cannotRefetch(int source, Collection<String> positions) {
        UUID[] ids = ids(source, positions);
        mapper.notToRefetch(ids);
        mapper.textsGone(ids);
    }

    /** The positions in these files of a calendar that still show something. */
    public List<String> under(int source, Collection<String> hrefs) {
        return mapper.positionsUnder(source, hrefs.toArray(String[]::new));
    }

    /** All positions of a source that still show something. */
    public List<String> all(int source) {
        return mapper.positions(source, "%");
    }

    /** Some positions of a source that begin like this and still show something, in an order of their own, after the one given. */
    public List<String> page(int source, String beginning, String after, int most) {
        return mapper.positionsAfter(source, Like.escaped(beginning) + "%", after, most);
    }

    /** A position whose owner chose for it by hand. */
    public record Chosen(String position, ManualOverride hand) {}

    /** All that somebody chose for by hand at a source. */
    public List<Chosen> chosen(int source) {
        return mapper.chosen(source).stream()
                .map(row -> new Chosen(row.position(), Hands.of(row.hand())))
                .toList();
    }

    /**
     * A message whose keyword is to be set in its mailbox, or taken away.
     *
     * @param entry in the outbox
     * @param logged whether it is logged; else it was
     * @param keyword the policy's; empty when it has none any more
     */
    public record KeywordChange(Outbox.Entry entry, String position, boolean logged, String keyword) {}

    /** What waits for a folder; entries of what is no longer there are dropped. */
    @Transactional
    public List<KeywordChange> keywordChanges(int source, int most) {
        List<Outbox.Entry> entries = outbox.pending(Kind.KEYWORD, String.valueOf(source), most);
        if (entries.isEmpty()) {
            return List.of();
        }
        Map<UUID, IntakeMapper.KeywordRow> rows = new HashMap<>();
        mapper.keywords(entries.stream().map(Outbox.Entry::subject).toArray(UUID[]::new))
                .forEach(row -> rows.put(row.id(), row));
        outbox.allDone(
                entries.stream().filter(e -> !rows.containsKey(e.subject())).toList());
        return entries.stream()
                .filter(e -> rows.containsKey(e.subject()))
                .map(e -> {
                    IntakeMapper.KeywordRow row = Objects.requireNonNull(rows.get(e.subject()));
                    return new KeywordChange(e, row.position(), row.logged(), row.keyword());
                })
                .toList();
    }

    /** They stand in the mailbox; what has changed since stays to be done. */
    public void keywordsSet(Collection<KeywordChange> changes) {
        outbox.allDone(changes.stream().map(KeywordChange::entry).toList());
    }

    /** Every keyword that any policy ever had for what is logged. */
    public List<String> keywordsEver() {
        return mapper.keywordsEver();
    }

    /** Takes positions out that name nothing any more, because the server has numbered its messages anew. */
    @Transactional
    public void forget(int source, Collection<String> positions) {
        forget(ids(source, positions));
    }

    private void forget(UUID[] ids) {
        UUID[] items = mapper.items(ids).toArray(UUID[]::new);
        records.lock(items);
        mapper.forget(ids);
        recorder.rebuild(items);
    }

    @Override
    public void forgetAll(int source) {
        for (List<UUID> some = mapper.someOf(source, BATCH); !some.isEmpty(); some = mapper.someOf(source, BATCH)) {
            UUID[] ids = some.toArray(UUID[]::new);
            transactions.executeWithoutResult(t -> forget(ids));
        }
    }

    private UUID[] ids(int source, Collection<String> positions) {
        return positions.stream().map(p -> keys.sighting(source, p)).toArray(UUID[]::new);
    }
}
