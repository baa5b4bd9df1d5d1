package jandrel.store;

/** Texts for LIKE patterns, in which nothing but what is put around them stands for something else. */
final class Like {
    private Like() {}

    static String escaped(String text) {
        return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_");
    }
}
