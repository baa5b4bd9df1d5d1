package jandrel.core.directory;

import java.util.UUID;

/**
 * An address, or a domain with all below it, that is never captured.
 *
 * @param key what it covers, as {@link jandrel.core.address.EmailAddress#keys()} writes it
 * @param reason why, in the words of whoever added it; may be empty
 */
public record Exclusion(UUID id, String key, String reason) {}
