package jandrel.core.item;

import java.time.Instant;
import java.util.List;

/**
 * Something found at a source that no reader understood.
 *
 * @param reason what is wrong with it, in words that hold none of its content
 */
public record UnreadableItem(String identity, Instant at, String reason) implements Item {
    @Override
    public List<Party> parties() {
        return List.of();
    }

    @Override
    public String subject() {
        return "";
    }
}
