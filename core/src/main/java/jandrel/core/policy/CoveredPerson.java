package jandrel.core.policy;

import java.util.UUID;

/** A person as audiences see them. */
public record CoveredPerson(UUID id, String key, String team, String role) {}
