package jandrel.store.contacts;

import java.util.UUID;

/** A contact that a card may be of. */
public record FittingContact(UUID id, String name, String title, String account, String addresses) {}
