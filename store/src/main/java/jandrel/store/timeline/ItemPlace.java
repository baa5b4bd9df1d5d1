package jandrel.store.timeline;

/** Where an item lies. */
public record ItemPlace(int source, String position) {}
