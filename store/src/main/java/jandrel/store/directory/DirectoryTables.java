package jandrel.store.directory;

import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.store.directory.DirectoryTableMapper.Condition;
import jandrel.store.kernel.Like;
import jandrel.store.kernel.ReadTimeout;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The directory as tables: sorted, narrowed and in pages, by the database. */
@Component
public class DirectoryTables {
    /** What a filter says for “nothing in it”. */
    private static final String EMPTY = "-";

    private final DirectoryTableMapper mapper;
    private final OwnFieldList own;

    /**
     * Which rows.
     *
     * @param find a part of a name, a key, an address or a domain; empty for any
     * @param filters by column: a part of its text, {@code =} and the whole of it, or {@code -} for nothing in it
     * @param sort a column
     * @param archived the archived ones, in place of the others
     * @param own fields that the table has besides
     */
    public record Wanted(
            DirectoryFile file,
            String find,
            Map<String, String> filters,
            String sort,
            boolean descending,
            boolean archived,
            OwnFields own) {
        public Wanted {
            filters = Map.copyOf(filters);
        }
    }

    /**
     * @param values by column, as its file has it; of a column that names another row, that one's name beside it, as
     *     {@code owner_name}
     * @param byHand the columns that somebody set here
     */
    public record TableLine(
            UUID id, String key, long version, boolean archived, List<String> byHand, Map<String, String> values) {}

    /** A table's own SQL: where its rows are from, what each column is of them, and which of those are sorted as figures. */
    private record Shape(String from, Map<String, String> columns, Set<String> figures, String find) {}

    /** A merge that is undone, or an installation's export, may bring back what was no number yet. */
    private static final String NUMBER = "CASE WHEN %1$s ~ '^-?[0-9]{1,16}([.][0-9]{1,6})?$' THEN (%1$s)::numeric END";

    private static final String ADDRESS_FIND =
            " OR EXISTS (SELECT FROM %s x WHERE x.%s = r.id AND x.%s ILIKE #{pattern})";
    private static final Map<DirectoryFile, Shape> SHAPES = Map.of(
            DirectoryFile.PEOPLE,
            new Shape(
                    "person r",
                    columns(
                            "name", "r.name",
                            "addresses", list("person_address", "person", "address", "x.address"),
                            "team", "r.team",
                            "role", "r.role"),
                    Set.of(),
                    ADDRESS_FIND.formatted("person_address", "person", "address")),
            DirectoryFile.ACCOUNTS,
            new Shape(
                    "account r LEFT JOIN person o ON o.id = r.owner LEFT JOIN account u ON u.id = r.above",
                    columns(
                            "name", "r.name",
                            "domains", list("account_domain", "account", "domain", "substr(x.domain, 2)"),
                            "owner", "o.key",
                            "owner_name", "o.name",
                            "part_of", "u.key",
                            "part_of_name", "u.name",
                            "contacts",
                                    "(SELECT count(*) FROM contact x WHERE x.account = r.id AND x.archived_at IS NULL)",
                            "opportunities",
                                    "(SELECT count(*) FROM opportunity x WHERE x.account = r.id AND x.state = 'OPEN' AND x.archived_at IS NULL)"),
                    Set.of("contacts", "opportunities"),
                    ADDRESS_FIND.formatted("account_domain", "account", "domain")),
            DirectoryFile.CONTACTS,
            new Shape(
                    "contact r LEFT JOIN account u ON u.id = r.account",
                    columns(
                            "name", "r.name",
                            "title", "r.title",
                            "account", "u.key",
                            "account_name", "u.name",
                            "addresses", list("contact_address", "contact", "address", "x.address"),
                            "phones", list("contact_phone", "contact", "phone", "x.phone"),
                            "last_active", "r.last_active"),
                    Set.of("last_active"),
                    ADDRESS_FIND.formatted("contact_address", "contact", "address")),
            DirectoryFile.LEADS,
            new Shape(
                    "lead r LEFT JOIN person o ON o.id = r.owner",
                    columns(
                            "name", "r.name",
                            "company", "r.company",
                            "addresses", list("lead_address", "lead", "address", "x.address"),
                            "owner", "o.key",
                            "owner_name", "o.name"),
                    Set.of(),
                    ADDRESS_FIND.formatted("lead_address", "lead", "address")),
            DirectoryFile.OPPORTUNITIES,
            new Shape(
                    "opportunity r JOIN account u ON u.id = r.account LEFT JOIN person o ON o.id = r.owner",
                    columns(
                            "name", "r.name",
                            "account", "u.key",
                            "account_name", "u.name",
                            "stage", "r.stage",
                            "state", "lower(r.state)",
                            "value", "trim_scale(r.value)",
                            "currency", "r.currency",
                            "period", "r.period",
                            "channel", "r.channel",
                            "owner", "o.key",
                            "owner_name", "o.name",
                            "contacts",
                                    "(SELECT string_agg(c.key, ' ' ORDER BY c.key) FROM opportunity_contact x JOIN contact c ON c.id = x.contact"
                                            + " WHERE x.opportunity = r.id)"),
                    Set.of("value"),
                    " OR u.name ILIKE #{pattern}"));

    DirectoryTables(DirectoryTableMapper mapper, OwnFieldList own) {
        this.mapper = mapper;
        this.own = own;
    }

    private static Shape shape(DirectoryFile file, OwnFields own) {
        Shape shape = Objects.requireNonNull(SHAPES.get(file));
        if (file != DirectoryFile.CONTACTS || own.all().isEmpty()) {
            return shape;
        }
        Map<String, String> columns = new LinkedHashMap<>(shape.columns());
        Set<String> figures = new LinkedHashSet<>(shape.figures());
        for (OwnField field : own.all()) {
            // a key has nothing in it that means something to the database
            String text = "r.own ->> '" + field.key() + "'";
            boolean number = field.kind() == OwnField.Kind.NUMBER;
            columns.put(field.key(), number ? NUMBER.formatted(text) : text);
            if (number) {
                figures.add(field.key());
            }
        }
        return new Shape(shape.from(), columns, figures, shape.find());
    }

    private static String list(String table, String of, String order, String shown) {
        return "(SELECT string_agg(%s, ' ' ORDER BY x.%s) FROM %s x WHERE x.%s = r.id)"
                .formatted(shown, order, table, of);
    }

    private static Map<String, String> columns(String... pairs) {
        Map<String, String> columns = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            columns.put(pairs[i], pairs[i + 1]);
        }
        return columns;
    }

    /** What a table shows, in order; those of its file first, then what is counted. */
    public static List<String> columns(DirectoryFile file, OwnFields own) {
        Set<String> shown = new LinkedHashSet<>();
        Map<String, String> known = shape(file, own).columns();
        file.columns().forEach(c -> {
            if (known.containsKey(c.name())) {
                shown.add(c.name());
            }
        });
        known.keySet().stream().filter(c -> !c.endsWith("_name")).forEach(shown::add);
        return List.copyOf(shown);
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public long count(Wanted wanted) {
        Shape shape = shape(wanted.file(), wanted.own());
        return mapper.count(shape.from(), pattern(wanted), find(wanted, shape), conditions(wanted, shape));
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<TableLine> page(Wanted wanted, int offset, int limit) {
        Shape shape = shape(wanted.file(), wanted.own());
        return mapper
                .page(
                        shape.from(),
                        selected(wanted.file(), shape),
                        pattern(wanted),
                        find(wanted, shape),
                        conditions(wanted, shape),
                        order(wanted, shape),
                        offset,
                        limit)
                .stream()
                .map(DirectoryTables::line)
                .toList();
    }

    /** Those of these that are there. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<TableLine> some(DirectoryFile file, UUID[] ids) {
        Shape shape = shape(file, own.fields());
        return mapper.some(shape.from(), selected(file, shape), ids).stream()
                .map(DirectoryTables::line)
                .toList();
    }

    private static String pattern(Wanted wanted) {
        return "%" + Like.escaped(wanted.find()) + "%";
    }

    private static String find(Wanted wanted, Shape shape) {
        return wanted.find().isEmpty() ? "" : shape.find();
    }

    private static List<Condition> conditions(Wanted wanted, Shape shape) {
        List<Condition> conditions = new ArrayList<>();
        if (wanted.file() != DirectoryFile.PEOPLE) {
            conditions.add(new Condition("r.archived_at IS " + (wanted.archived() ? "NOT NULL" : "NULL"), ""));
        }
        wanted.filters().forEach((column, text) -> {
            String sql = "coalesce((" + Objects.requireNonNull(shape.columns().get(column)) + ")::text, '')";
            String name = shape.columns().get(column + "_name");
            String named = name == null ? sql : "(" + sql + " || ' ' || coalesce(" + name + ", ''))";
            if (text.equals(EMPTY) || text.strip().equals("=")) {
                conditions.add(new Condition(sql + " = ''", ""));
            } else if (text.startsWith("=")) {
                conditions.add(new Condition(
                        "lower(" + sql + ") =", text.substring(1).strip().toLowerCase(Locale.ROOT)));
            } else {
                conditions.add(new Condition(named + " ILIKE", "%" + Like.escaped(text.strip()) + "%"));
            }
        });
        return conditions;
    }

    private static String selected(DirectoryFile file, Shape shape) {
        List<String> all = new ArrayList<>();
        shape.columns().forEach((name, sql) -> all.add("'" + name + "', (" + sql + ")::text"));
        return (file == DirectoryFile.PEOPLE
                        ? "false AS archived, ARRAY[]::text[] AS by_hand, "
                        : "r.archived_at IS NOT NULL AS archived, r.by_hand, ")
                + "jsonb_build_object('key', r.key, " + String.join(", ", all) + ")::text AS cells";
    }

    private static String order(Wanted wanted, Shape shape) {
        String name = shape.columns().get(wanted.sort() + "_name");
        String by = name != null ? name : Objects.requireNonNull(shape.columns().getOrDefault(wanted.sort(), "r.key"));
        // as people sort, whatever the letters' case and accents (CLDR's root order)
        String sorted = shape.figures().contains(wanted.sort()) ? by : by + " COLLATE \"und-x-icu\"";
        // what has none comes last, whichever way
        return "nullif((" + by + ")::text, '') IS NULL, " + sorted + (wanted.descending() ? " DESC" : "") + ", r.id";
    }

    private static TableLine line(DirectoryTableMapper.Line row) {
        Map<String, String> values = new LinkedHashMap<>();
        DirectoryTableMapper.cells(row.cells()).forEach((name, value) -> values.put(name, orEmpty(value)));
        return new TableLine(
                row.id(),
                Objects.requireNonNull(values.get("key")),
                row.version(),
                row.archived(),
                List.of(row.byHand()),
                values);
    }

    private static String orEmpty(@Nullable String text) {
        return text == null ? "" : text;
    }
}
