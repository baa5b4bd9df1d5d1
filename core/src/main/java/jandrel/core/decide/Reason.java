package jandrel.core.decide;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * One step of a trail: a rule, and the facts that met it. What it did is the rule's meaning; {@link Sentences} says it in words.
 *
 * @param facts by name, in the order given; never the subject or the text of an item
 */
public record Reason(Rule rule, Map<String, String> facts) {
    public Reason {
        facts = Map.copyOf(facts);
    }

    static Reason of(Rule rule) {
        return new Reason(rule, Map.of());
    }

    static Reason of(Rule rule, String... pairs) {
        Map<String, String> facts = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            facts.put(pairs[i], pairs[i + 1]);
        }
        return new Reason(rule, facts);
    }

    /** The named fact, or an empty text. */
    public String fact(String name) {
        return facts.getOrDefault(name, "");
    }
}
