package jandrel.core.directory;

import jandrel.core.directory.DirectoryFile.CellKind;
import jandrel.core.directory.DirectoryFile.Column;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Lines of a file from elsewhere as lines of ours, by the columns that were matched. */
public final class ForeignRows {
    private static final Pattern ENGLISH = Pattern.compile("-?\\d{1,3}(,\\d{3})+(\\.\\d+)?");
    private static final Pattern EUROPEAN = Pattern.compile("-?\\d{1,3}(\\.\\d{3})+(,\\d+)?|-?\\d+,\\d{1,2}");
    private static final Pattern DOTTED = Pattern.compile("(\\d{1,2})\\.(\\d{1,2})\\.(\\d{4})");
    private final DirectoryFile file;
    private final List<Column> known;
    private final List<String> mapping;
    private final Map<String, CellKind> types;

    /** @param mapping for each of their columns the name of ours; empty for none */
    public ForeignRows(DirectoryFile file, OwnFields own, List<String> mapping) {
        this.file = file;
        this.known = own.columns(file);
        this.mapping = List.copyOf(mapping);
        this.types = known.stream().collect(Collectors.toMap(Column::name, Column::type));
    }

    /** Ours that have to be there and are not, but for the key, which is made of what tells a row from others. */
    public List<String> missing() {
        return known.stream()
                .filter(Column::required)
                .map(Column::name)
                .filter(c -> !c.equals("key") && !mapping.contains(c))
                .toList();
    }

    /** Ours that there are, in order; the key always. */
    public List<String> columns() {
        return known.stream()
                .map(Column::name)
                .filter(c -> c.equals("key") || mapping.contains(c))
                .toList();
    }

    /**
     * A line of ours.
     *
     * @param keys of people and accounts by what else names them; see {@link #references}
     */
    public Map<String, String> line(List<String> cells, Map<CellKind, Map<String, String>> keys) {
        Map<String, List<String>> parts = new LinkedHashMap<>();
        for (int i = 0; i < mapping.size() && i < cells.size(); i++) {
            // one line of theirs is one of ours
            String cell = cells.get(i).replaceAll("[\\r\\n]+", " ").strip();
            if (!mapping.get(i).isEmpty() && !cell.isEmpty()) {
                parts.computeIfAbsent(mapping.get(i), c -> new ArrayList<>()).add(cell);
            }
        }
        Map<String, String> line = new HashMap<>();
        parts.forEach((column, all) -> {
            CellKind type = types.getOrDefault(column, CellKind.TEXT);
            String joined = String.join(type == CellKind.PHONES ? "; " : " ", all);
            line.put(column, adapted(type, joined, keys));
        });
        if (line.getOrDefault("key", "").isEmpty()) {
            line.put("key", keyOf(line));
        }
        return line;
    }

    private static String adapted(CellKind type, String cell, Map<CellKind, Map<String, String>> keys) {
        return switch (type) {
            case PERSON, ACCOUNT -> keys.getOrDefault(type, Map.of()).getOrDefault(cell.toLowerCase(Locale.ROOT), cell);
            case DOMAINS ->
                java.util.Arrays.stream(cell.split("[;,\\s]+", 0))
                        .map(ColumnMatch::bare)
                        .collect(Collectors.joining(" "));
            case AMOUNT, NUMBER -> amount(cell);
            case DAY -> day(cell);
            case STATE -> state(cell);
            default -> cell;
        };
    }

    static String amount(String cell) {
        String bare = cell.replaceAll("[\\s\\u00A0\\u202F]", "").replaceAll("^\\p{Sc}|\\p{Sc}$", "");
        if (ENGLISH.matcher(bare).matches()) {
            return bare.replace(",", "");
        }
        return EUROPEAN.matcher(bare).matches() ? bare.replace(".", "").replace(',', '.') : bare;
    }

    /** With dots, the day comes first; with slashes nobody knows, and the line says so. */
    static String day(String cell) {
        Matcher dotted = DOTTED.matcher(cell);
        if (dotted.matches()) {
            return "%s-%2s-%2s"
                    .formatted(dotted.group(3), dotted.group(2), dotted.group(1))
                    .replace(' ', '0');
        }
        return cell.matches("\\d{4}-\\d{2}-\\d{2}[T ].*") ? cell.substring(0, 10) : cell;
    }

    private static String state(String cell) {
        String low = cell.toLowerCase(Locale.ROOT);
        return low.endsWith("won") ? "won" : low.endsWith("lost") ? "lost" : low.equals("in progress") ? "open" : cell;
    }

    /** What tells a row from others where the file has no key of its own: the same row has the same key the next time. */
    private String keyOf(Map<String, String> line) {
        String by = file == DirectoryFile.ACCOUNTS ? "domains" : "addresses";
        String first = line.getOrDefault(by, "").strip().split("[;,\\s]+", 2)[0].toLowerCase(Locale.ROOT);
        return first.isEmpty() ? line.getOrDefault("name", "").toLowerCase(Locale.ROOT) : first;
    }

    /** What cells of these kinds name, in lower case: to be looked up by address, domain or name. */
    public List<String> references(CellKind type, List<String> cells) {
        List<String> named = new ArrayList<>();
        for (int i = 0; i < mapping.size() && i < cells.size(); i++) {
            if (types.get(mapping.get(i)) == type && !cells.get(i).isBlank()) {
                named.add(cells.get(i).strip().toLowerCase(Locale.ROOT));
            }
        }
        return named;
    }
}
