package jandrel.core.timeline;

import java.util.Set;
import java.util.UUID;

/**
 * Somebody's own choice of who reads one item.
 *
 * @param opens whether it lets more read; else it lets nobody read but those named and whose it is
 * @param readers persons, and what stands for teams
 * @param by whose choice it is, by name
 * @param to the readers in words
 */
public record Ruling(boolean opens, Set<UUID> readers, String by, String to) {
    public Ruling {
        readers = Set.copyOf(readers);
    }
}
