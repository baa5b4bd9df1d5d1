package jandrel.service.capture;

import java.util.UUID;

/** A server that could not be used can be used again: who waits for it need not wait any longer. */
record ServerBack(UUID server) {}
