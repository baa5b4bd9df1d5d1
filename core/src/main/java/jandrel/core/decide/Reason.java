package jandrel.core.decide;

import java.util.Map;

/**
 * One step of a trail: a rule, and the facts that met it. What it did is the rule's meaning; {@link Sentences} says it in words.
 *
 * @param facts by name; never the subject or the text of an item
 */
public record Reason(Rule rule, Map<String, String> facts) {
    private static final String BLIND = "blind";

    public Reason {
        facts = Map.copyOf(facts);
    }

    static Reason of(Rule rule) {
        return new Reason(rule, Map.of());
    }

    static Reason of(Rule rule, String name, String value) {
        return new Reason(rule, Map.of(name, value));
    }

    static Reason of(Rule rule, String name, String value, String name2, String value2) {
        return new Reason(rule, Map.of(name, value, name2, value2));
    }

    static Reason of(Rule rule, String name, String value, String name2, String value2, String name3, String value3) {
        return new Reason(rule, Map.of(name, value, name2, value2, name3, value3));
    }

    static Reason of(Rule rule, Map<String, String> facts) {
        return new Reason(rule, facts);
    }

    /** The same, about somebody who has a blind copy: for the sender alone. */
    Reason asBlind() {
        Map<String, String> more = new java.util.HashMap<>(facts);
        more.put(BLIND, "yes");
        return new Reason(rule, more);
    }

    /** Whether it is about somebody who has a blind copy. */
    public boolean isBlind() {
        return facts.containsKey(BLIND);
    }

    /** The named fact, or an empty text. */
    public String fact(String name) {
        return facts.getOrDefault(name, "");
    }
}
