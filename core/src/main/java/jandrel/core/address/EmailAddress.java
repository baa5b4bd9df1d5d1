package jandrel.core.address;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * A mail address in the form in which addresses are compared: lower case, the domain in ASCII (RFC 5321 §4.1.2, RFC 6531 for the
 * local part). Quoted local parts are kept as they are.
 */
public final class EmailAddress {
    private static final int LONGEST_LOCAL_PART = 128;

    private final String text;
    private final List<String> domainKeys;

    private EmailAddress(String text, List<String> domainKeys) {
        this.text = text;
        this.domainKeys = List.copyOf(domainKeys);
    }

    /** @throws InvalidAddress if the text is no mail address */
    public static EmailAddress of(String text) {
        return parse(text).orElseThrow(() -> new InvalidAddress("not a mail address"));
    }

    /** The address, or nothing when the text is none; white space around it, angle brackets and {@code mailto:} are taken off. */
    public static Optional<EmailAddress> parse(String text) {
        String bare = text.strip();
        if (bare.regionMatches(true, 0, "mailto:", 0, 7)) {
            bare = bare.substring(7);
        }
        if (bare.startsWith("<") && bare.endsWith(">")) {
            bare = bare.substring(1, bare.length() - 1);
        }
        int at = bare.lastIndexOf('@');
        if (at < 1 || at > LONGEST_LOCAL_PART) {
            return Optional.empty();
        }
        String local = bare.substring(0, at).toLowerCase(Locale.ROOT);
        return isLocalPart(local)
                ? DomainName.parse(bare.substring(at + 1))
                        .map(domain -> new EmailAddress(local + "@" + domain, domain.keys()))
                : Optional.empty();
    }

    private static boolean isLocalPart(String local) {
        boolean quoted = local.length() > 1 && local.startsWith("\"") && local.endsWith("\"");
        for (int i = 0; i < local.length(); i++) {
            char c = local.charAt(i);
            boolean special = c == '"' || c == '<' || c == '>' || c == ',' || c == ';' || c == '@';
            if (c < ' ' || (c == ' ' && !quoted) || c == 127 || (special && !quoted)) {
                return false;
            }
        }
        return true;
    }

    /** The keys of the domain and its parents, nearest first; see {@link DomainName#keys()}. */
    public List<String> domainKeys() {
        return domainKeys;
    }

    /** The domain's name. */
    public String domain() {
        return text.substring(text.lastIndexOf('@') + 1);
    }

    /** The address that this is a variant of, by a detail after a plus (RFC 5233 §4): {@code x@y} of {@code x+detail@y}. */
    public Optional<EmailAddress> withoutDetail() {
        int plus = text.indexOf('+');
        int at = text.lastIndexOf('@');
        return plus < 1 || plus > at || text.charAt(0) == '"'
                ? Optional.empty()
                : Optional.of(new EmailAddress(text.substring(0, plus) + text.substring(at), domainKeys));
    }

    /** Without the dots of its local part and without a detail: what names the mailbox at a provider that ignores dots. */
    public EmailAddress withoutDots() {
        EmailAddress plain = withoutDetail().orElse(this);
        int at = plain.text.lastIndexOf('@');
        return plain.text.charAt(0) == '"'
                ? plain
                : new EmailAddress(plain.text.substring(0, at).replace(".", "") + plain.text.substring(at), domainKeys);
    }

    /**
     * Everything by which a rule can cover this address: the address, the one without a detail after a plus, then its domain and the
     * parents of that, nearest first.
     */
    public List<String> keys() {
        List<String> keys = new ArrayList<>(domainKeys.size() + 2);
        keys.add(text);
        withoutDetail().ifPresent(plain -> keys.add(plain.text));
        keys.addAll(domainKeys);
        return keys;
    }

    @Override
    public String toString() {
        return text;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof EmailAddress that && that.text.equals(text);
    }

    @Override
    public int hashCode() {
        return text.hashCode();
    }
}
