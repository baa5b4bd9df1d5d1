package jandrel.store.capture;

import jandrel.core.decide.Decision;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.triage.Met;
import java.util.List;

/**
 * Who deals with whom on a kept item, for triage.
 *
 * @param strangers those on it
 * @param answerable the digest that an answer to it names, where one of ours wrote it; else empty
 */
record Dealings(List<Met> strangers, String answerable) {
    static final Dealings NONE = new Dealings(List.of(), "");

    /** Of what is not kept, none. */
    static Dealings of(Item item, Decision decision, DirectorySlice slice) {
        if (!decision.verdict().keepsFacts()) {
            return NONE;
        }
        boolean answerable = item instanceof MailItem && Met.oursWrote(item, slice);
        return new Dealings(
                Met.on(item, slice), answerable ? ((MailItem) item).strand().own() : "");
    }

    boolean strangerWrote() {
        return strangers.stream().anyMatch(m -> m.way() == Met.Way.IN);
    }
}
