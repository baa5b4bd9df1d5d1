package jandrel.core.timeline;

import jandrel.core.decide.Link;
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
 */
public record Activity(Item item, List<Link> links, Readers readers, List<UUID> owners, Set<UUID> insiders) {}
