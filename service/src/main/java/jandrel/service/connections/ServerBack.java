package jandrel.service.connections;

import java.util.UUID;

/** A server that could not be used can be used again: who waits for it need not wait any longer. */
public record ServerBack(UUID server) {}
