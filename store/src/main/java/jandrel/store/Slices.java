package jandrel.store;

import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.directory.Opportunity;
import jandrel.core.item.Item;
import jandrel.core.rehearse.Draft;
import java.util.Collection;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.springframework.stereotype.Component;

/** Cuts the part of the directory that a batch of items touches. */
@Component
public class Slices {
    private final SliceMapper mapper;

    Slices(SliceMapper mapper) {
        this.mapper = mapper;
    }

    public DirectorySlice of(Collection<? extends Item> items) {
        return of(items, Draft.NONE);
    }

    /** As it would be after a change that has not been made. */
    DirectorySlice of(Collection<? extends Item> items, Draft draft) {
        Set<String> keys = new TreeSet<>();
        items.forEach(item -> keys.addAll(item.keys()));
        return ofKeys(keys, draft);
    }

    /** @param keys of all that is on the items */
    DirectorySlice ofKeys(Set<String> keys, Draft draft) {
        DirectorySlice.Builder slice = DirectorySlice.builder();
        for (SliceMapper.Row row : mapper.slice(keys.toArray(String[]::new))) {
            boolean replaced = row.what().equals("own") && draft.own().isPresent()
                    || row.what().equals("free") && draft.freeMail().isPresent();
            if (!replaced) {
                add(row, slice);
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
        return slice.build();
    }

    private static void add(SliceMapper.Row row, DirectorySlice.Builder slice) {
        switch (row.what()) {
            case "contact" -> slice.contact(row.key(), contact(row));
            case "domain" -> slice.accountDomain(row.key(), new Account(id(row.id()), row.name(), row.accountOwner()));
            case "open" -> slice.open(id(row.account()), new Opportunity(id(row.id()), row.name()));
            case "person" -> slice.person(row.key(), new Insider(id(row.id()), row.name()));
            case "own" -> slice.ownDomain(row.key());
            case "free" -> slice.freeMail(row.key());
            default -> throw new IllegalStateException("no such row: " + row.what());
        }
    }

    private static Contact contact(SliceMapper.Row row) {
        Account account = row.account() == null
                ? null
                : new Account(row.account(), Objects.requireNonNull(row.accountName()), row.accountOwner());
        return new Contact(id(row.id()), Objects.requireNonNull(row.sorting()), row.name(), account, row.lastActive());
    }

    private static java.util.UUID id(java.util.@org.jspecify.annotations.Nullable UUID id) {
        return Objects.requireNonNull(id);
    }
}
