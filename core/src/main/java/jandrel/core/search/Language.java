package jandrel.core.search;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** In what a text is written, told by the small words that every text has. */
public enum Language {
    NORWEGIAN("b", "og ikke jeg det som har til med vi dere av kan fra etter noe bare hva hvis eller"),
    DANISH("d", "og ikke jeg det som har til med vi jer af kan fra efter noget hvad hvis eller blive mig"),
    ENGLISH("e", "the and of to is that for with this we you are have from not will your our please it"),
    FRENCH("f", "le la les des et est que pour dans vous nous avec une sur pas ce votre qui sont au"),
    GERMAN("g", "der die das und ist nicht wir sie ein mit von zu auf den fur eine ich im haben auch"),
    ITALIAN("i", "il di che per non sono con una del della gli abbiamo anche questo nel vi da e le si"),
    DUTCH("n", "de het een en van niet is dat voor met we op zijn ik u aan naar ook wij hebben"),
    PORTUGUESE("p", "o que de nao para com uma os por mais da do em voce nos sao esta ao seu as"),
    SPANISH("s", "el que de los para con una por no es se las del su como mas esta en nos y"),
    FINNISH("u", "ja on ei se etta han mutta niin kun olen me tama ovat mita ole voi kanssa jos te olla"),
    SWEDISH("v", "och inte jag det som har till med vi ni av kan fran efter nagot bara vad om eller att"),
    UNKNOWN("x", "");

    /** As many of these words make sure; a name or a greeting alone tells nothing. */
    private static final int FEWEST = 3;

    private static final int MOST_READ = 4_000;

    /** The small words of all, each with the languages that have it. */
    private static final Map<String, List<Language>> SMALL = new HashMap<>();

    static {
        for (Language language : values()) {
            for (String word : language.small.split(" ", -1)) {
                SMALL.computeIfAbsent(word, w -> new ArrayList<>()).add(language);
            }
        }
    }

    private final String letter;
    private final String small;

    Language(String letter, String small) {
        this.letter = letter;
        this.small = small;
    }

    /** By which the store names it. */
    public String letter() {
        return letter;
    }

    /** Of the beginning of a text; unknown where two are as likely. */
    public static Language of(String text) {
        EnumMap<Language, Integer> counts = new EnumMap<>(Language.class);
        Folding.each(
                text.substring(0, Math.min(text.length(), MOST_READ)),
                (word, from, until) ->
                        SMALL.getOrDefault(word, List.of()).forEach(l -> counts.merge(l, 1, Integer::sum)));
        Language best = UNKNOWN;
        int most = FEWEST - 1;
        for (Language language : values()) {
            int count = counts.getOrDefault(language, 0);
            if (count == most) {
                best = UNKNOWN;
            } else if (count > most) {
                best = language;
                most = count;
            }
        }
        return best;
    }
}
