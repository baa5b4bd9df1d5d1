package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.Sheet;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;

/** Whether figures are what a statement says: a row for each line, named by its key; columns as the sheet calls them. */
final class SheetBySql {
    private SheetBySql() {}

    /** @param columns gets those of which something was seen */
    static void check(JdbcTemplate jdbc, long seed, String what, Sheet sheet, String sql, Set<String> columns) {
        Map<String, Map<String, Double>> said = new TreeMap<>();
        for (Map<String, Object> row : jdbc.queryForList(sql)) {
            Map<String, Double> line = new TreeMap<>();
            row.forEach((name, value) ->
                    put(line, name, value instanceof Number n ? Double.valueOf(n.doubleValue()) : null));
            if (!line.isEmpty()) {
                said.put(String.valueOf(row.get("key")), line);
            }
        }
        Map<String, Map<String, Double>> ours = new TreeMap<>();
        for (Sheet.Line l : sheet.lines()) {
            Map<String, Double> line = new TreeMap<>();
            for (int i = 0; i < sheet.columns().size(); i++) {
                put(line, sheet.columns().get(i).name(), l.cells().get(i).value());
            }
            if (!line.isEmpty()) {
                ours.put(l.key(), line);
                line.keySet().forEach(c -> columns.add(what + " " + c));
            }
        }
        assertThat(ours).as("%s, -Djandrel.seed=%d", what, seed).isEqualTo(said);
    }

    private static void put(Map<String, Double> line, String name, @Nullable Double value) {
        if (value != null && value != 0 && !name.equals("key")) {
            line.put(name, Math.round(value * 1e6) / 1e6);
        }
    }
}
