package jandrel.core.directory;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** @param owner the person of ours who looks after the account */
public record Account(UUID id, String name, @Nullable UUID owner) {}
