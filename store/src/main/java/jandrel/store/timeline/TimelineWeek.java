package jandrel.store.timeline;

import java.time.Instant;

/**
 * How much stands on a timeline in one week.
 *
 * @param begins a Monday, UTC
 */
public record TimelineWeek(Instant begins, long mail, long meetings) {}
