package jandrel.core.address;

import com.google.common.net.InternetDomainName;
import java.net.IDN;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A domain name in lower-case ASCII form (RFC 5890 A-labels), of at least two labels.
 *
 * <p>A <em>public suffix</em> is a name under which strangers register their own names; the list is the one that Guava carries,
 * with the list's own default rule (an unknown top label is a suffix) applied here, because Guava leaves it out.
 */
public final class DomainName {
    private static final int LONGEST = 253;
    private static final int LONGEST_LABEL = 63;

    private final String name;

    private DomainName(String name) {
        this.name = name;
    }

    /** @throws InvalidAddress if the text is no domain name of two labels or more */
    public static DomainName of(String text) {
        return parse(text).orElseThrow(() -> new InvalidAddress("not a domain name"));
    }

    /** The domain, or nothing when the text is none. A leading {@code @} or {@code *.} and a trailing dot are taken off. */
    public static Optional<DomainName> parse(String text) {
        String bare = text.strip();
        if (bare.startsWith("@")) {
            bare = bare.substring(1);
        }
        if (bare.startsWith("*.")) {
            bare = bare.substring(2);
        }
        if (bare.endsWith(".")) {
            bare = bare.substring(0, bare.length() - 1);
        }
        String ascii = isPlain(bare) ? bare.toLowerCase(Locale.ROOT) : toAscii(bare);
        return ascii.length() <= LONGEST && areLabels(ascii) ? Optional.of(new DomainName(ascii)) : Optional.empty();
    }

    private static boolean isPlain(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) >= 128) {
                return false;
            }
        }
        return true;
    }

    /** Two labels or more of letters, digits, hyphens and underscores; none begins with a hyphen. */
    private static boolean areLabels(String text) {
        int labels = 1;
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean plain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_';
            if (c == '.' && i > from) {
                labels++;
                from = i + 1;
            } else if ((!plain && (c != '-' || i == from)) || i - from >= LONGEST_LABEL) {
                return false;
            }
        }
        return labels > 1 && from < text.length();
    }

    private static String toAscii(String text) {
        try {
            return IDN.toASCII(text, IDN.ALLOW_UNASSIGNED).toLowerCase(Locale.ROOT);
        } catch (IllegalArgumentException notAName) {
            return "";
        }
    }

    /** Whether strangers register names of their own directly under this one. */
    public boolean isPublicSuffix() {
        if (!InternetDomainName.isValid(name)) {
            return false;
        }
        return InternetDomainName.from(name).isPublicSuffix();
    }

    /** The name that somebody registered, of which this may be a part; the name itself where that cannot be told. */
    public DomainName registrable() {
        if (!InternetDomainName.isValid(name)) {
            return this;
        }
        InternetDomainName parsed = InternetDomainName.from(name);
        return parsed.isUnderPublicSuffix()
                ? new DomainName(parsed.topPrivateDomain().toString())
                : this;
    }

    /** What somebody registered of a domain, as {@link #registrable()}; the text itself where it is no domain's name. */
    public static String registered(String domain) {
        return parse(domain).map(d -> d.registrable().toString()).orElse(domain);
    }

    /** The look-up keys this name is covered by: itself and each parent of two labels or more, each with a leading {@code @}. */
    public List<String> keys() {
        List<String> keys = new ArrayList<>(3);
        int from = 0;
        while (name.indexOf('.', from) >= 0) {
            keys.add("@" + name.substring(from));
            from = name.indexOf('.', from) + 1;
        }
        return keys;
    }

    /** The key under which this very name is filed. */
    public String key() {
        return "@" + name;
    }

    @Override
    public String toString() {
        return name;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof DomainName that && that.name.equals(name);
    }

    @Override
    public int hashCode() {
        return name.hashCode();
    }
}
