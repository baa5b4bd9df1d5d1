package jandrel.core.timeline;

import jandrel.core.decide.Decision;
import jandrel.core.item.Item;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * One copy of an item that was decided to be logged.
 *
 * @param copy names it among all
 * @param person whose source shows it
 * @param content names the text that it has; null while that is not known
 */
public record Logged(
        UUID copy, UUID person, Item item, @Nullable UUID content, Decision decision) {}
