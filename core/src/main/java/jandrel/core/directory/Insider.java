package jandrel.core.directory;

import java.util.UUID;

/** A person of the company. */
public record Insider(UUID id, String name) {}
