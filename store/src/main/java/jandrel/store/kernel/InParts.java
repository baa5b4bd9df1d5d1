package jandrel.store.kernel;

import java.util.List;
import java.util.function.Consumer;

/** A statement has a limit to its parameters; long lists go in parts. */
public final class InParts {
    private static final int PART = 1_000;

    private InParts() {}

    public static <T> void of(List<T> rows, Consumer<List<T>> statement) {
        for (int from = 0; from < rows.size(); from += PART) {
            statement.accept(rows.subList(from, Math.min(rows.size(), from + PART)));
        }
    }
}
