package jandrel.core.timeline;

import jandrel.core.decide.Link;
import jandrel.core.decide.Reason;
import jandrel.core.item.Item;
import jandrel.core.visibility.Readers;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/**
 * What stands on timelines for one item.
 *
 * @param owners whose sources showed it, in order of their ids
 * @param insiders the people of ours who are on it
 * @param trail how it is marked, and why these readers, where more than one rule had a say; mostly empty
 */
public record Activity(
        Item item, List<Link> links, Readers readers, List<UUID> owners, Set<UUID> insiders, List<Reason> trail) {}
