package jandrel.store.timeline;

/**
 * A query as the database takes it. Of patterns for LIKE each has a {@code +} before it, or a {@code -} where it must not fit.
 *
 * @param indexed what the index is asked for, as a tsquery
 * @param without what must not stand in what the viewer reads, as a tsquery; empty for nothing. The index cannot be asked for it: who
 *     shares a text would be kept away by the other's subject
 * @param phrases words one after another, and beginnings of words
 * @param attached {@code yes}, {@code no} or empty
 */
public record SearchTerms(
        String indexed,
        String without,
        String[] phrases,
        String[] from,
        String[] to,
        String[] with,
        String[] of,
        String[] in,
        String attached) {}
