package jandrel.service.people;

import java.util.UUID;

/** Somebody has left the company; heard in the transaction that says so. Nothing of what was captured goes. */
public record PersonLeft(UUID person, String by) {}
