package jandrel.core.directory;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The kinds of files and tables that the directory has, in the order in which they refer to each other, and their columns. */
public enum DirectoryFile {
    PEOPLE(
            null,
            required("key", CellKind.TEXT),
            required("name", CellKind.TEXT),
            required("addresses", CellKind.ADDRESSES),
            column("team", CellKind.TEXT),
            column("role", CellKind.TEXT)),
    ACCOUNTS(
            RecordKind.ACCOUNT,
            required("key", CellKind.TEXT),
            required("name", CellKind.TEXT),
            column("domains", CellKind.DOMAINS),
            column("owner", CellKind.PERSON),
            column("part_of", CellKind.ACCOUNT)),
    CONTACTS(
            RecordKind.CONTACT,
            required("key", CellKind.TEXT),
            required("name", CellKind.TEXT),
            column("addresses", CellKind.ADDRESSES),
            column("phones", CellKind.PHONES),
            column("account", CellKind.ACCOUNT),
            column("title", CellKind.TEXT),
            column("last_active", CellKind.DAY),
            column("since", CellKind.DAY)),
    LEADS(
            RecordKind.LEAD,
            required("key", CellKind.TEXT),
            required("name", CellKind.TEXT),
            required("addresses", CellKind.ADDRESSES),
            column("company", CellKind.TEXT),
            column("owner", CellKind.PERSON)),
    OPPORTUNITIES(
            RecordKind.OPPORTUNITY,
            required("key", CellKind.TEXT),
            required("name", CellKind.TEXT),
            required("account", CellKind.ACCOUNT),
            column("stage", CellKind.TEXT),
            column("state", CellKind.STATE),
            column("value", CellKind.AMOUNT),
            column("currency", CellKind.CURRENCY),
            column("period", CellKind.PERIOD),
            column("channel", CellKind.TEXT),
            column("owner", CellKind.PERSON),
            column("contacts", CellKind.CONTACTS));

    /** What the cells of a column hold. */
    public enum CellKind {
        TEXT,
        ADDRESSES,
        DOMAINS,
        PHONES,
        /** The key of one of our people. */
        PERSON,
        /** An account's key. */
        ACCOUNT,
        /** Contacts' keys. */
        CONTACTS,
        /** {@code 2026-03-31}. */
        DAY,
        AMOUNT,
        /** Any number. */
        NUMBER,
        /** One of a list. */
        CHOICE,
        /** Three letters (ISO 4217). */
        CURRENCY,
        /** {@code once} or {@code month}. */
        PERIOD,
        /** {@code open}, {@code won} or {@code lost}. */
        STATE
    }

    /** @param required whether a file must have it */
    public record Column(String name, CellKind type, boolean required) {}

    private final @Nullable RecordKind kind;

    @SuppressWarnings("ImmutableEnumChecker")
    private final List<Column> columns;

    DirectoryFile(@Nullable RecordKind kind, Column... columns) {
        this.kind = kind;
        this.columns = List.of(columns);
    }

    private static Column column(String name, CellKind type) {
        return new Column(name, type, false);
    }

    private static Column required(String name, CellKind type) {
        return new Column(name, type, true);
    }

    /** Such as {@code contacts}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public static Optional<DirectoryFile> called(String word) {
        return Arrays.stream(values()).filter(f -> f.word().equals(word)).findFirst();
    }

    /** What its rows are; nothing for our own people. */
    public Optional<RecordKind> kind() {
        return Optional.ofNullable(kind);
    }

    public List<Column> columns() {
        return columns;
    }
}
