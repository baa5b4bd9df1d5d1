package jandrel.sources;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The tags of all objects of a calendar as a token of our own, for servers that have none (RFC 4791 §9.5 names the way). */
final class Tags {
    private static final String BEGINNING = "tags\n";

    private Tags() {}

    static boolean areIn(String token) {
        return token.startsWith(BEGINNING);
    }

    /** @param token of the last time; another, or none, counts all as new */
    static DavChanges changes(Map<String, String> tags, String token) {
        Map<String, String> before = areIn(token) ? parsed(token) : Map.of();
        List<String> changed = new ArrayList<>();
        StringBuilder now = new StringBuilder(BEGINNING);
        new TreeMap<>(tags).forEach((href, tag) -> {
            if (!tag.equals(before.get(href))) {
                changed.add(href);
            }
            now.append(href).append('\t').append(tag).append('\n');
        });
        List<String> removed = before.keySet().stream()
                .filter(href -> !tags.containsKey(href))
                .sorted()
                .toList();
        return new DavChanges(now.toString(), changed, removed, !areIn(token));
    }

    private static Map<String, String> parsed(String token) {
        Map<String, String> tags = new TreeMap<>();
        token.substring(BEGINNING.length()).lines().forEach(line -> {
            int tab = line.indexOf('\t');
            if (tab > 0) {
                tags.put(line.substring(0, tab), line.substring(tab + 1));
            }
        });
        return tags;
    }
}
