package jandrel.core.directory;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Exclusion.Kind;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Reads exclusions out of whatever somebody pastes: a line each or with commas or semicolons between, {@code Name <address>},
 * domains, patterns, and {@code kind: what} for what its looks do not tell. Nothing is thrown; what does not fit says why.
 */
public final class PastedExclusions {
    private static final int LONGEST = 200;

    private final @Nullable Kind forced;
    private final Collection<String> own;
    private final List<Line> lines = new ArrayList<>();

    /**
     * @param line counts from 1
     * @param text as it was pasted
     * @param kind null when it cannot be told
     * @param what as an {@link Exclusion} has it; empty when it does not fit
     * @param problem why it cannot be taken; empty when it can
     */
    public record Line(int line, String text, @Nullable Kind kind, String what, String problem) {
        public boolean fits() {
            return problem.isEmpty();
        }
    }

    private PastedExclusions(@Nullable Kind forced, Collection<String> own) {
        this.forced = forced;
        this.own = own;
    }

    /**
     * @param forced what all of it is; null to go by looks
     * @param own the keys of our own domains, which must not be excluded
     */
    public static List<Line> read(String text, @Nullable Kind forced, Collection<String> own) {
        PastedExclusions pasted = new PastedExclusions(forced, own);
        String[] all = text.split("\\R", -1);
        for (int i = 0; i < all.length; i++) {
            pasted.line(all[i], i + 1);
        }
        return pasted.lines;
    }

    private void line(String text, int number) {
        // a title may have commas of its own
        String[] parts = forced == null && prefix(text).isEmpty() ? text.split("[,;]", 0) : new String[] {text};
        for (String part : parts) {
            if (!part.isBlank()) {
                lines.add(part(part.strip(), number));
            }
        }
    }

    private static Optional<Kind> prefix(String text) {
        int colon = text.indexOf(':');
        String word = colon < 0 ? "" : text.substring(0, colon).strip().toLowerCase(Locale.ROOT);
        return Arrays.stream(Kind.values()).filter(k -> k.word().equals(word)).findFirst();
    }

    private Line part(String text, int number) {
        Optional<Kind> named = forced == null ? prefix(text) : Optional.of(forced);
        String bare = forced == null && named.isPresent()
                ? text.substring(text.indexOf(':') + 1).strip()
                : text;
        Kind kind = named.orElseGet(() -> looks(bare));
        return kind == null
                ? new Line(number, text, null, "", "it is neither an address nor a domain")
                : line(text, number, kind, bare);
    }

    private static @Nullable Kind looks(String text) {
        String bare = inAngles(text);
        if (EmailAddress.parse(bare).isPresent() && bare.indexOf('*') < 0 && bare.indexOf('?') < 0) {
            return Kind.ADDRESS;
        }
        if (bare.indexOf('@') > 0 && (bare.indexOf('*') >= 0 || bare.indexOf('?') >= 0)) {
            return Kind.PATTERN;
        }
        return DomainName.parse(bare).isPresent() ? Kind.DOMAIN : null;
    }

    private static String inAngles(String text) {
        int open = text.lastIndexOf('<');
        return open >= 0 && text.endsWith(">")
                ? text.substring(open + 1, text.length() - 1).strip()
                : text;
    }

    private Line line(String text, int number, Kind kind, String bare) {
        String what = what(kind, bare);
        String problem = what.isEmpty() ? needs(kind) : problem(kind, what);
        return new Line(number, text, kind, problem.isEmpty() ? what : "", problem);
    }

    private static String what(Kind kind, String bare) {
        String lower = bare.toLowerCase(Locale.ROOT);
        return switch (kind) {
            case ADDRESS ->
                EmailAddress.parse(inAngles(bare)).map(EmailAddress::toString).orElse("");
            case DOMAIN, DOMAIN_ALONE ->
                DomainName.parse(inAngles(bare)).map(DomainName::key).orElse("");
            case PATTERN -> inAngles(lower).matches("[^\\s@<>]*@[^\\s@<>]*") ? inAngles(lower) : "";
            case HEADER -> lower.matches("[a-z0-9-]+:\\s*\\S.*") ? lower.replaceFirst(":\\s*", ": ") : "";
            case LIST -> inAngles(lower).matches("[^\\s<>]+") ? inAngles(lower) : "";
            case CATEGORY -> lower;
            case CLASS -> lower.equals("private") || lower.equals("confidential") ? lower : "";
            case TITLE ->
                String.join(
                        " ",
                        List.of(lower.replaceAll("[^\\p{L}\\p{N}]+", " ")
                                .strip()
                                .split(" ", 0)));
        };
    }

    private static String needs(Kind kind) {
        return switch (kind) {
            case ADDRESS -> "it is no mail address";
            case DOMAIN, DOMAIN_ALONE -> "it is no domain name";
            case PATTERN -> "a pattern has one @, and * or ? for what may differ";
            case HEADER -> "a header marker is written “name: value”";
            case LIST -> "a list’s id has no spaces";
            case CATEGORY -> "a category has a name";
            case CLASS -> "a class is “private” or “confidential”";
            case TITLE -> "a title needs a word at least";
        };
    }

    private String problem(Kind kind, String what) {
        if (what.length() > LONGEST) {
            return "it is longer than " + LONGEST + " characters";
        }
        if ((kind == Kind.DOMAIN || kind == Kind.DOMAIN_ALONE) && own.contains(what)) {
            return "it is a domain of our own company: excluding it would stop all capture";
        }
        if (kind == Kind.DOMAIN
                && DomainName.parse(what).filter(DomainName::isPublicSuffix).isPresent()) {
            return "it takes in everybody under that suffix";
        }
        if (kind == Kind.PATTERN
                && (what.replaceAll("[*?@.]", "").isEmpty()
                        || own.stream().anyMatch(o -> Wildcards.match(what, "x" + o)))) {
            return "it takes in everybody, or our own company";
        }
        return "";
    }
}
