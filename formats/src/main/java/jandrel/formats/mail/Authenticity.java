package jandrel.formats.mail;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.item.Party;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Tells whether a mail server that is believed found out that a message is of its author (RFC 8601): by a signature of the author's domain
 * (DKIM), by a machine that the domain lets send (SPF), or because the author signed in to send it. From and MAIL FROM alone prove nothing.
 */
public final class Authenticity {
    private static final Pattern METHOD = Pattern.compile(
            "^\\s*(dkim|spf|auth)\\s*(?:/\\s*\\d+\\s*)?=\\s*pass\\b(.*)$", Pattern.CASE_INSENSITIVE | Pattern.DOTALL);
    private static final Pattern PROPERTY = Pattern.compile(
            "\\b(header\\.d|smtp\\.mailfrom|smtp\\.auth)\\s*=\\s*\"?([^\\s;\"]{1,320})", Pattern.CASE_INSENSITIVE);
    private static final Pattern COMMENT = Pattern.compile("\\([^()]{0,1000}\\)");
    private static final MailLimits HEADER_ALONE = new MailLimits(0, 0, 10, 0, 64_000, 16_000);

    private Authenticity() {}

    /**
     * @param believed the names of servers (authserv-id, RFC 8601 §2.5) that are believed. Of several results of one server the first
     *     counts: the others stood in the message before it came there
     */
    public static boolean isProven(byte[] message, Collection<String> believed) {
        MimeWalk walk = new MimeWalk(HEADER_ALONE);
        try {
            walk.over(message);
        } catch (Exception | StackOverflowError broken) {
            // what was read of its header counts
        }
        List<Party> parties = new Parties(HEADER_ALONE.parties()).of(walk.header());
        if (parties.isEmpty() || parties.get(0).part() != Party.Part.FROM) {
            return false;
        }
        EmailAddress author = parties.get(0).address();
        return walk.header().all("authentication-results").stream()
                .map(value -> COMMENT.matcher(value).replaceAll(" "))
                .filter(value -> isBy(value, believed))
                .findFirst()
                .filter(value -> isProven(value, author))
                .isPresent();
    }

    private static boolean isBy(String value, Collection<String> believed) {
        String server = value.split("[;\\s]", 2)[0].strip();
        return believed.stream().anyMatch(server::equalsIgnoreCase);
    }

    private static boolean isProven(String value, EmailAddress author) {
        for (String result : value.split(";", 0)) {
            Matcher method = METHOD.matcher(result);
            if (method.matches() && passes(method.group(1).toLowerCase(Locale.ROOT), method.group(2), author)) {
                return true;
            }
        }
        return false;
    }

    private static boolean passes(String method, String properties, EmailAddress author) {
        Matcher property = PROPERTY.matcher(properties);
        while (property.find()) {
            String name = property.group(1).toLowerCase(Locale.ROOT);
            String value = property.group(2).toLowerCase(Locale.ROOT);
            boolean passes = switch (name) {
                case "header.d" -> method.equals("dkim") && isAligned(value, author);
                case "smtp.mailfrom" ->
                    method.equals("spf") && isAligned(value.substring(value.lastIndexOf('@') + 1), author);
                default -> method.equals("auth") && isLogin(value, author);
            };
            if (passes) {
                return true;
            }
        }
        return false;
    }

    /** Relaxed alignment (RFC 7489 §3.1): under the same registered domain. */
    private static boolean isAligned(String domain, EmailAddress author) {
        return registered(domain).equals(registered(author.domain()))
                && registered(domain).isPresent();
    }

    private static Optional<String> registered(String domain) {
        return DomainName.parse(domain).map(d -> d.registrable().toString());
    }

    private static boolean isLogin(String login, EmailAddress author) {
        String address = author.toString();
        return login.equals(address) || login.equals(address.substring(0, address.lastIndexOf('@')));
    }
}
