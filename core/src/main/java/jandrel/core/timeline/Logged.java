package jandrel.core.timeline;

import jandrel.core.decide.Decision;
import jandrel.core.item.Item;
import java.util.UUID;

/** One sighting of an item that was decided to be logged. */
public record Logged(UUID person, Item item, Decision decision) {}
