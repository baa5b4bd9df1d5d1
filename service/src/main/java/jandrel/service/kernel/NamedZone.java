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
        throw none(name);
    }

    /**
     * One that is kept: it goes by a name of the IANA database. What Java alone reads, such as {@code GMT+2}, is another zone to a database.
     *
     * @throws Refusal when there is none by that name
     */
    public static ZoneId kept(String name) {
        ZoneId zone = called(name);
        if (!ZoneId.getAvailableZoneIds().contains(name)) {
            throw none(name);
        }
        return zone;
    }

    private static Refusal none(String name) {
        return Refusal.bad("There is no zone “" + name + "”", "Give an IANA name, such as Europe/Oslo.");
    }
}
