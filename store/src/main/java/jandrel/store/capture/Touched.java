package jandrel.store.capture;

import jandrel.core.directory.Exclusion;
import jandrel.core.item.MeetingItem;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Like;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Finds the kept sightings that an exclusion may cover: never too few, seldom many more. What it finds is then decided.
 *
 * @param key an address or a domain with a leading {@code @}; empty when it is not looked up by one
 * @param kind the kind of item; empty for any
 * @param keysLike a pattern for one of the keys; empty for none
 * @param factsLike patterns that the facts must all fit
 */
record Touched(String key, String kind, String keysLike, String[] factsLike) {
    static Touched by(Exclusion e) {
        return switch (e.kind()) {
            case ADDRESS, DOMAIN, DOMAIN_ALONE -> new Touched(e.what(), "", "", new String[0]);
            case PATTERN ->
                new Touched("", "", Like.escaped(e.what()).replace('*', '%').replace('?', '_'), new String[0]);
            case HEADER -> facts("mail", pieces(e.what()));
            case LIST -> facts("mail", List.of("<" + e.what() + ">"));
            case CATEGORY -> facts("meeting", List.of(e.what()));
            case CLASS ->
                facts(
                        "meeting",
                        List.of(MeetingItem.Privacy.valueOf(e.what().toUpperCase(Locale.ROOT))
                                .name()));
            case TITLE -> facts("meeting", List.of(e.what().split(" ", 0)));
        };
    }

    private static List<String> pieces(String pattern) {
        List<String> pieces = new ArrayList<>();
        for (String piece : pattern.split("[*?]", 0)) {
            if (!piece.isBlank()) {
                pieces.add(piece);
            }
        }
        return pieces;
    }

    /** As the facts' JSON writes it. */
    private static Touched facts(String kind, List<String> texts) {
        return new Touched(
                "",
                kind,
                "",
                texts.stream()
                        .map(t -> Json.write(t))
                        .map(t -> "%" + Like.escaped(t.substring(1, t.length() - 1)) + "%")
                        .toArray(String[]::new));
    }
}
