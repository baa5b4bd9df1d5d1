package jandrel.store.kernel;

/** Texts for LIKE patterns, in which nothing but what is put around them stands for something else. */
public final class Like {
    private Like() {}

    public static String escaped(String text) {
        return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_");
    }
}
