package jandrel.client;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Aligned columns. On a terminal the widest column gives way; elsewhere nothing is cut. */
final class Table {
    private static final String GAP = "  ";
    private final List<String> columns;
    private final boolean[] right;
    private final List<List<String>> rows = new ArrayList<>();

    /** A column's name with a leading {@code >} is set to the right, as numbers are. */
    Table(String... columns) {
        this.right = new boolean[columns.length];
        List<String> names = new ArrayList<>();
        for (int i = 0; i < columns.length; i++) {
            right[i] = columns[i].startsWith(">");
            names.add(right[i] ? columns[i].substring(1) : columns[i]);
        }
        this.columns = names;
    }

    void row(Object... cells) {
        rows.add(Arrays.stream(cells).map(c -> printable(String.valueOf(c))).toList());
    }

    /** Mail is written by strangers: nothing in it may steer the terminal. */
    static String printable(String text) {
        return text.replaceAll("[\\p{Cntrl}\\u0080-\\u009f\\u200e\\u200f\\u202a-\\u202e\\u2066-\\u2069]+", " ");
    }

    /** @param width of the terminal; 0 for no limit */
    void print(PrintStream out, int width) {
        int[] widths = new int[columns.size()];
        for (int i = 0; i < widths.length; i++) {
            int column = i;
            widths[i] = Math.max(
                    columns.get(i).length(),
                    rows.stream().mapToInt(r -> r.get(column).length()).max().orElse(0));
        }
        int all = Arrays.stream(widths).sum() + GAP.length() * (widths.length - 1);
        for (int over = all - width;
                width > 0 && over > 0;
                over = Arrays.stream(widths).sum() + GAP.length() * (widths.length - 1) - width) {
            int widest = widest(widths);
            if (widths[widest] <= 12) {
                break;
            }
            widths[widest] = Math.max(12, widths[widest] - over);
        }
        print(out, columns, widths);
        rows.forEach(row -> print(out, row, widths));
    }

    private int widest(int[] widths) {
        int widest = 0;
        for (int i = 1; i < widths.length; i++) {
            boolean isId = columns.get(i).equals("id");
            widest = widths[i] > widths[widest] && !isId ? i : widest;
        }
        return widest;
    }

    private void print(PrintStream out, List<String> cells, int[] widths) {
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < widths.length; i++) {
            String cell = cells.get(i);
            String cut = cell.length() > widths[i] ? cell.substring(0, widths[i] - 1) + "…" : cell;
            String pad = " ".repeat(widths[i] - cut.length());
            line.append(i == 0 ? "" : GAP).append(right[i] ? pad + cut : cut + pad);
        }
        out.println(line.toString().stripTrailing());
    }
}
