package jandrel.service.measures;

import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.formats.mail.OneLine;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Figures as text for a letter: what they say in a sentence, and a small plot of what says most of it. */
final class FigureText {
    private static final int BAR = 20;
    private static final int LONGEST_LABEL = 34;
    private static final int MOST_LINES = 40;
    /** So many in a row that have nothing are told one by one. */
    private static final int MOST_EMPTY = 2;

    private FigureText() {}

    static String of(MeasureSheet sheet) {
        int drawn = sheet.columns().stream().map(MeasureColumn::name).toList().indexOf(sheet.drawn());
        MeasureColumn column = sheet.columns().get(drawn);
        double most = sheet.lines().stream()
                .map(l -> l.cells().get(drawn).value())
                .mapToDouble(v -> v == null ? 0 : v)
                .max()
                .orElse(0);
        StringBuilder text = new StringBuilder(sheet.says()).append("\r\n");
        if (!sheet.hiddenSays().isEmpty()) {
            text.append(sheet.hiddenSays()).append("\r\n");
        }
        text.append("\r\nBy ")
                .append(sheet.by())
                .append(": ")
                .append(column.name())
                .append("\r\n");
        lines(text, sheet, drawn, column, most);
        line(text, sheet.total(), drawn, column, 0);
        MeasureLine before = sheet.before();
        if (before != null) {
            line(text, before, drawn, column, 0);
        }
        return text.append("\r\nFrom ")
                .append(sheet.from())
                .append(" until ")
                .append(sheet.until())
                .append(".\r\n")
                .toString();
    }

    /** Of weeks and months the newest are told, of all else the first; where several in a row have nothing, how many those are. */
    private static void lines(StringBuilder text, MeasureSheet sheet, int drawn, MeasureColumn column, double most) {
        List<MeasureLine> all = sheet.lines();
        boolean inTime = sheet.by().equals("month") || sheet.by().equals("week");
        int from = inTime ? Math.max(0, all.size() - MOST_LINES) : 0;
        if (from > 0) {
            text.append("(").append(from).append(" before these)\r\n");
        }
        List<MeasureLine> told = all.subList(from, Math.min(all.size(), from + MOST_LINES));
        for (int i = 0; i < told.size(); i++) {
            int empty = i;
            while (empty < told.size() && isEmpty(told.get(empty).cells().get(drawn))) {
                empty++;
            }
            if (empty - i > MOST_EMPTY) {
                text.append("(").append(empty - i).append(" with nothing)\r\n");
                i = empty - 1;
            } else {
                line(text, told.get(i), drawn, column, most);
            }
        }
        if (from + told.size() < all.size()) {
            text.append("and ").append(all.size() - told.size()).append(" more\r\n");
        }
    }

    private static boolean isEmpty(MeasureCell cell) {
        return cell.value() == null || cell.value() == 0;
    }

    /** @param most by which bars are measured; 0 for none */
    private static void line(StringBuilder text, MeasureLine line, int drawn, MeasureColumn column, double most) {
        Double value = line.cells().get(drawn).value();
        String label = OneLine.shortened(OneLine.plain(line.label()), LONGEST_LABEL);
        String bar = value == null || most <= 0 ? "" : "█".repeat((int) Math.round(value / most * BAR));
        text.append(String.format(Locale.ROOT, "%-" + LONGEST_LABEL + "s %9s  %s", label, shown(value, column), bar)
                        .stripTrailing())
                .append("\r\n");
    }

    private static String shown(@Nullable Double value, MeasureColumn column) {
        if (value == null) {
            return "";
        }
        return switch (column.unit()) {
            case "share" -> Math.round(value * 100) + " %";
            case "days", "hours", "meetings" ->
                BigDecimal.valueOf(value).setScale(1, RoundingMode.HALF_UP).toPlainString();
            default -> String.format(Locale.ROOT, "%,.0f", value);
        };
    }
}
