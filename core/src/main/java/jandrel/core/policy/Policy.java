package jandrel.core.policy;

import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/**
 * What is captured for whom, and who reads it.
 *
 * @param version grows by one with each change
 * @param audience whom it covers, unless a policy before it in order covers them
 * @param sharing who reads in full; everybody else gets the outline
 * @param outward the kinds of activity made here that go out to calendars, where meetings go out at all
 * @param books which cards come in from address books and which contacts go out to them, where contacts flow at all
 * @param opening which meetings open opportunities
 */
public record Policy(
        UUID id,
        int version,
        String name,
        Audience audience,
        Scope scope,
        Handling handling,
        Ties ties,
        Sharing sharing,
        Rhythm rhythm,
        Set<OutwardKind> outward,
        Keeping keeping,
        Creation creation,
        BookRules books,
        Opening opening) {
    /** The policy that a new installation begins with; it covers everyone. */
    public static final UUID FIRST = new UUID(0, 1);

    /** Who reads an activity in full; everybody else gets its outline. Ordered from the widest to the narrowest. */
    public enum Sharing {
        EVERYONE,
        /** The owner's team, and those on it. */
        TEAM,
        THOSE_ON_IT,
        OWNER;

        /** The one that lets fewer read. */
        public Sharing narrower(Sharing other) {
            return compareTo(other) >= 0 ? this : other;
        }
    }

    /** A kind of activity made here that can go out to a calendar. */
    public enum OutwardKind {
        MEETING,
        CALL,
        FOLLOW_UP
    }

    public Policy {
        outward = Set.copyOf(outward);
        // rules kept before there was this have none
        keeping = Objects.requireNonNullElse(keeping, Keeping.SAFE);
        creation = Objects.requireNonNullElse(creation, Creation.NONE);
        books = Objects.requireNonNullElse(books, BookRules.SAFE);
        opening = Objects.requireNonNullElse(opening, Opening.NONE);
    }

    /** The safe one: inwards only, nobody made a contact, our own company's mail left out. */
    public static Policy first() {
        return new Policy(
                FIRST,
                1,
                "Everyone",
                Audience.EVERYONE,
                Scope.SAFE,
                Handling.SAFE,
                Ties.SAFE,
                Sharing.EVERYONE,
                Rhythm.SAFE,
                Set.of(),
                Keeping.SAFE,
                Creation.NONE,
                BookRules.SAFE,
                Opening.NONE);
    }

    public Policy with(Scope scope) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    public Policy with(Handling handling) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    public Policy with(Ties ties) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    public Policy with(Sharing sharing) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    public Policy with(Audience audience) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    public Policy with(BookRules books) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    /** The same settings under another id, version or name. */
    public Policy named(UUID id, int version, String name) {
        return new Policy(
                id, version, name, audience, scope, handling, ties, sharing, rhythm, outward, keeping, creation, books,
                opening);
    }

    /** Whether this kind of what is made here goes out to its owner's calendar. */
    public boolean sends(OutwardKind kind) {
        return scope.meetings().goesOut() && outward.contains(kind);
    }

    /** Why it cannot be switched on yet, each as a sentence; empty when it can. */
    public Set<String> notActiveYet() {
        Set<String> reasons = new TreeSet<>();
        if (!outward.isEmpty() && !scope.meetings().goesOut()) {
            reasons.add(
                    "Something is to go out to calendars, but meetings only come in; choose “out” or “both” for them.");
        }
        return reasons;
    }
}
