package jandrel.store.directory;

import jandrel.store.kernel.Json;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * What is in the fields of a contact that the company made for itself, by their keys: an object of texts (JSON), none of them empty, as the
 * database writes it.
 */
final class OwnValues {
    static final String NONE = "{}";

    private OwnValues() {}

    /** With these in place of what was there; empty ones take away. */
    static String with(String own, Map<String, String> given) {
        if (given.isEmpty()) {
            return own;
        }
        Map<String, String> all = read(own);
        given.forEach((key, value) -> put(all, key, value));
        return written(all, read(own), own);
    }

    /** With what was in these fields before. */
    static String keeping(String own, String was, Set<String> keep) {
        if (own.equals(was)) {
            return own;
        }
        Map<String, String> before = read(was);
        Map<String, String> all = read(own);
        keep.forEach(key -> put(all, key, before.getOrDefault(key, "")));
        return written(all, before, was);
    }

    private static void put(Map<String, String> all, String key, String value) {
        if (value.isEmpty()) {
            all.remove(key);
        } else {
            all.put(key, value);
        }
    }

    /** To the letter as it was where nothing is another. */
    private static String written(Map<String, String> all, Map<String, String> before, String was) {
        return all.equals(before) ? was : Json.write(all);
    }

    static Map<String, String> read(String own) {
        Map<String, String> all = new TreeMap<>();
        if (!own.equals(NONE)) {
            ((Map<?, ?>) Json.any(own)).forEach((key, value) -> all.put(key.toString(), value.toString()));
        }
        return all;
    }
}
