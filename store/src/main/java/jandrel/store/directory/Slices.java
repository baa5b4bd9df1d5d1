package jandrel.store.directory;

import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.Contact.Stay;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.directory.Lead;
import jandrel.core.directory.Opportunity;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Item;
import jandrel.core.rehearse.Draft;
import jandrel.store.kernel.ItemKeys;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Cuts the part of the directory that a batch of items touches. */
@Component
public class Slices {
    private final SliceMapper mapper;

    private final ItemKeys keys;

    Slices(SliceMapper mapper, ItemKeys keys) {
        this.keys = keys;
        this.mapper = mapper;
    }

    public DirectorySlice of(Collection<? extends Item> items) {
        return of(items, Draft.NONE);
    }

    /** As it would be after a change that has not been made. */
    DirectorySlice of(Collection<? extends Item> items, Draft draft) {
        Set<String> wanted = new TreeSet<>();
        items.forEach(item -> wanted.addAll(item.keys()));
        DirectorySlice.Builder slice = builder(wanted, draft);
        pins(items, slice);
        return slice.build();
    }

    /**
     * @param keys of all that is on the items
     * @param identity of an item, asked only for those that somebody pinned
     */
    public DirectorySlice ofKeys(Set<String> keys, Draft draft, Set<UUID> items, Function<UUID, String> identity) {
        DirectorySlice.Builder slice = builder(keys, draft);
        pins(items, identity, slice);
        return slice.build();
    }

    private void pins(Collection<? extends Item> items, DirectorySlice.Builder slice) {
        Map<UUID, String> identities = new HashMap<>();
        items.forEach(item -> identities.put(keys.item(item.identity()), item.identity()));
        pins(identities.keySet(), id -> String.valueOf(identities.get(id)), slice);
    }

    private void pins(Set<UUID> items, Function<UUID, String> identity, DirectorySlice.Builder slice) {
        for (SliceMapper.PinRow pin : mapper.pins(items.toArray(UUID[]::new))) {
            RecordKind kind = RecordKind.valueOf(pin.kind().toUpperCase(Locale.ROOT));
            slice.pin(
                    identity.apply(pin.item()),
                    new DirectorySlice.Pin(kind, pin.record(), pin.name(), pin.byName(), Set.of(pin.owners())));
        }
    }

    private DirectorySlice.Builder builder(Set<String> keys, Draft draft) {
        DirectorySlice.Builder slice = DirectorySlice.builder();
        Cut cut = new Cut(mapper.slice(keys.toArray(String[]::new)));
        for (SliceMapper.Row row : cut.rows) {
            boolean replaced = (row.what().equals("own") && draft.own().isPresent())
                    || (row.what().equals("free") && draft.freeMail().isPresent());
            if (!replaced) {
                cut.add(row, slice);
            }
        }
        draft.own().ifPresent(own -> own.forEach(slice::ownDomain));
        draft.freeMail().ifPresent(free -> free.forEach(slice::freeMail));
        draft.exclusions().forEach(slice::exclusion);
        for (SliceMapper.ExclusionRow row : mapper.exclusions(keys.toArray(String[]::new))) {
            if (!draft.included().contains(row.id())) {
                slice.exclusion(row.exclusion());
            }
        }
        return slice;
    }

    /** The rows of one slice, with what they refer to among each other. */
    private static final class Cut {
        private static final int DEEPEST = 20;
        private final List<SliceMapper.Row> rows;
        private final Map<UUID, SliceMapper.Row> accountRows = new HashMap<>();
        private final Map<UUID, Account> accounts = new HashMap<>();
        private final Map<UUID, List<Stay>> stays = new HashMap<>();

        Cut(List<SliceMapper.Row> rows) {
            this.rows = rows;
            for (SliceMapper.Row row : rows) {
                if (row.what().equals("account")) {
                    accountRows.put(id(row.id()), row);
                }
            }
            for (SliceMapper.Row row : rows) {
                Account account = row.what().equals("stay") ? account(row.account(), 0) : null;
                if (account != null) {
                    stays.computeIfAbsent(id(row.id()), c -> new ArrayList<>(1))
                            .add(new Stay(account, Objects.requireNonNull(row.lastActive())));
                }
            }
        }

        private @Nullable Account account(@Nullable UUID id, int depth) {
            SliceMapper.Row row = id == null || depth > DEEPEST ? null : accountRows.get(id);
            if (row == null) {
                return null;
            }
            Account known = accounts.get(id(row.id()));
            if (known == null) {
                known = new Account(id(row.id()), row.name(), row.owner(), account(row.account(), depth + 1));
                accounts.put(known.id(), known);
            }
            return known;
        }

        void add(SliceMapper.Row row, DirectorySlice.Builder slice) {
            switch (row.what()) {
                case "contact" -> slice.contact(row.key(), contact(row));
                case "lead" ->
                    slice.lead(
                            row.key(),
                            new Lead(id(row.id()), Objects.requireNonNull(row.sorting()), row.name(), row.owner()));
                case "domain" -> {
                    Account account = account(row.id(), 0);
                    if (account != null) {
                        slice.accountDomain(row.key(), account);
                    }
                }
                case "open" ->
                    slice.open(
                            id(row.account()),
                            new Opportunity(id(row.id()), row.name(), row.owner(), ids(row.sorting())));
                case "person" -> slice.person(row.key(), new Insider(id(row.id()), row.name()));
                case "own" -> slice.ownDomain(row.key());
                case "free" -> slice.freeMail(row.key());
                case "dotless" -> slice.dotless(row.key());
                case "account", "stay" -> {
                    // others refer to them
                }
                default -> throw new IllegalStateException("no such row: " + row.what());
            }
        }

        private Contact contact(SliceMapper.Row row) {
            return new Contact(
                    id(row.id()),
                    Objects.requireNonNull(row.sorting()),
                    row.name(),
                    account(row.account(), 0),
                    row.lastActive(),
                    stays.getOrDefault(id(row.id()), List.of()),
                    Objects.requireNonNull(row.madeAt()));
        }

        private static Set<UUID> ids(@Nullable String texts) {
            return texts == null
                    ? Set.of()
                    : Arrays.stream(texts.split(" ", 0)).map(UUID::fromString).collect(Collectors.toSet());
        }

        private static UUID id(@Nullable UUID id) {
            return Objects.requireNonNull(id);
        }
    }
}
