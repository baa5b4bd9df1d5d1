package jandrel.service.policy;

import java.util.Locale;

/** Reads a word that stands for one of several things. */
interface OneWord {
    <E extends Enum<E>> E of(String field, Class<E> type, String word, E otherwise);

    /** The word for a thing. */
    static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
