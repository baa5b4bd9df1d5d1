package jandrel.core.directory;

import java.util.UUID;

/** An open opportunity. */
public record Opportunity(UUID id, String name) {}
