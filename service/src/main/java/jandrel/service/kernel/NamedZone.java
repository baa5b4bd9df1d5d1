package jandrel.service.kernel;

import java.time.DateTimeException;
import java.time.ZoneId;

/** A zone that a caller names. */
public final class NamedZone {
    private NamedZone() {}

    /** @throws Refusal when there is none by that name */
    public static ZoneId called(String name) {
        try {
            // those under SystemV are Java's own, and no database knows them
            if (!name.startsWith("SystemV/")) {
                return ZoneId.of(name);
            }
        } catch (DateTimeException unknown) {
            // said below
        }
        throw Refusal.bad("There is no zone “" + name + "”", "Give an IANA name, such as Europe/Oslo.");
    }
}
