package jandrel.bench;

/** Prints what was measured. */
final class Figures {
    private Figures() {}

    static void line(String what, String format, Object... values) {
        System.out.printf("%-46s " + format + "%n", prepend(what, values));
    }

    private static Object[] prepend(String first, Object[] rest) {
        Object[] all = new Object[rest.length + 1];
        all[0] = first;
        System.arraycopy(rest, 0, all, 1, rest.length);
        return all;
    }
}
