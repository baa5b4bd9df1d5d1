package jandrel.service.capture;

import jandrel.core.decide.ManualOverride;
import jandrel.store.connections.Connections.Connection;
import java.util.Locale;
import java.util.Set;

/**
 * The keywords by which a person chooses for a message by hand. To keep something out goes before making it count.
 *
 * @param count in lower case; empty for none
 * @param keepOut likewise
 */
record Choices(String count, String keepOut) {
    static final Choices NONE = new Choices("", "");

    static Choices of(Connection connection) {
        return new Choices(
                connection.countKeyword().toLowerCase(Locale.ROOT),
                connection.keepOutKeyword().toLowerCase(Locale.ROOT));
    }

    boolean any() {
        return !count.isEmpty() || !keepOut.isEmpty();
    }

    ManualOverride of(Set<String> keywords) {
        if (!keepOut.isEmpty() && keywords.contains(keepOut)) {
            return ManualOverride.keepOut(keepOut);
        }
        return !count.isEmpty() && keywords.contains(count)
                ? ManualOverride.count("keyword “" + count + "”")
                : ManualOverride.NONE;
    }
}
