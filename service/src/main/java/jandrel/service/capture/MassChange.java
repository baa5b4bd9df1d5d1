package jandrel.service.capture;

import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import java.util.Collection;
import java.util.List;

/** When so much vanishes from a calendar or an address book at once that somebody should say whether that is meant. */
public final class MassChange {
    private static final int MANY = 100;
    private static final int FEW = 5;
    private static final int SMALL = 20;
    private static final int LISTED = 500;

    private MassChange() {}

    /** More than a hundred, or more than a tenth of one that is not small. */
    static boolean is(int vanished, long known) {
        return vanished > MANY || (vanished >= FEW && known >= SMALL && vanished * 10L > known);
    }

    /** As many of them as are named to whoever decides about it. */
    static String[] listed(List<String> vanished) {
        return vanished.stream().limit(LISTED).toArray(String[]::new);
    }

    /**
     * One out of which much has vanished at once is left alone until somebody has said that this is meant.
     *
     * @param gone of which those count that were known
     */
    public static boolean holds(Connections connections, Source source, List<String> gone, Collection<String> known) {
        List<String> ours = gone.stream().filter(known::contains).toList();
        boolean mass = is(ours.size(), known.size());
        if (mass && !source.letPass()) {
            if (source.heldCount() == 0) {
                connections.held(source.id(), ours.size(), known.size(), listed(ours));
            }
            return true;
        }
        if (source.heldCount() > 0) {
            connections.held(source.id(), 0, 0, new String[0]);
        }
        return false;
    }
}
