package jandrel.core.opening;

import jandrel.core.directory.Account;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Opportunity;
import jandrel.core.item.MeetingItem;
import jandrel.core.opening.OpeningMeeting.Guest;
import jandrel.core.opening.OpeningResult.Did;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Opening.Condition;
import jandrel.core.policy.Opening.Field;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Goes through meetings by time and says what each opens or joins, counting what those before it have opened. The same for what is done
 * and for what would be done. Used once, by one thread.
 */
public final class Openings {
    private static final int LONGEST_NAME = 200;
    private final Opening rules;
    private final Map<String, String> opened = new HashMap<>();
    private int made;

    /**
     * What is known of accounts beside the directory, by their keys.
     *
     * @param first the first meeting with each, cancelled ones aside
     * @param closed when the last opportunity of each was closed, of those that have any
     * @param notAgain those of which somebody took back what was opened
     */
    public record Known(Map<String, First> first, Map<UUID, Instant> closed, Set<String> notAgain) {}

    public record First(Instant at, UUID item) {}

    /** @param made what this policy made today */
    public Openings(Opening rules, int made) {
        this.rules = rules;
        this.made = made;
    }

    /** What the next meeting does. Meetings come by their beginning. */
    public OpeningResult next(OpeningMeeting m, DirectorySlice slice, Known known) {
        String not = notAsked(m);
        if (!not.isEmpty()) {
            return OpeningResult.nothing(m.item(), not);
        }
        Optional<String> target = target(m);
        if (target.isEmpty()) {
            return withoutAccount(m);
        }
        String key = target.get();
        Account account = m.guests().stream()
                .filter(g -> g.key().equals(key))
                .map(Guest::account)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
        for (Condition c : rules.conditions()) {
            if (c.field() != Field.FIRST_MEETING && !c.holds(value(c.field(), m, account))) {
                return OpeningResult.nothing(m.item(), unmet(c, value(c.field(), m, account)));
            }
        }
        String called = account == null ? key.substring(1) : account.name();
        if (m.linked() != null) {
            return result(m, Did.JOINED, key, called, m.linked(), "", "It was linked to an open opportunity.");
        }
        if (opened.containsKey(key)) {
            return result(
                    m,
                    Did.JOINED,
                    key,
                    called,
                    null,
                    String.valueOf(opened.get(key)),
                    "A meeting before it opened one.");
        }
        List<Opportunity> open = account == null ? List.of() : slice.openOpportunities(account.id());
        if (open.size() == 1) {
            return result(m, Did.JOINED, key, called, open.get(0).id(), "", called + " had this one open opportunity.");
        }
        if (open.size() > 1) {
            return OpeningResult.nothing(
                    m.item(),
                    called + " has " + open.size() + " open opportunities, and which it is about is not known.");
        }
        return opens(m, account, key, called, known);
    }

    private OpeningResult opens(OpeningMeeting m, @Nullable Account account, String key, String called, Known known) {
        if (!rules.opens()) {
            return OpeningResult.nothing(m.item(), called + " has no open opportunity to join.");
        }
        for (Condition c : rules.conditions()) {
            if (c.field() == Field.FIRST_MEETING
                    && !c.holds(isFirst(m, known.first().get(key)) ? 1 : 0)) {
                return OpeningResult.nothing(
                        m.item(),
                        c.value() == 1
                                ? "It is not the first meeting with " + called + "."
                                : "It is the first meeting with " + called + ".");
            }
        }
        if (account == null && !rules.makesAccounts()) {
            return OpeningResult.nothing(m.item(), "No account has the domain " + called + ", and none is made.");
        }
        Instant closed = account == null ? null : known.closed().get(account.id());
        if (closed != null && !m.facts().at().isAfter(closed)) {
            return OpeningResult.nothing(m.item(), "The opportunity of " + called + " was closed after it.");
        }
        if (known.notAgain().contains(key)) {
            return OpeningResult.nothing(
                    m.item(), "What was opened for " + called + " by itself was taken back before.");
        }
        if (made >= rules.mostADay()) {
            return OpeningResult.none(
                    m.item(),
                    Did.WAITS,
                    "The policy makes at most " + rules.mostADay() + " a day, and made as many today.");
        }
        made++;
        String name = named(m, account == null ? titled(called) : called);
        opened.put(key, name);
        return result(m, Did.OPENED, key, called, null, name, called + " had no open opportunity.");
    }

    private OpeningResult withoutAccount(OpeningMeeting m) {
        List<Guest> free =
                m.guests().stream().filter(g -> g.freeMail() && g.isStranger()).toList();
        if (free.isEmpty()) {
            return OpeningResult.nothing(m.item(), "Nobody on it belongs to an account.");
        }
        if (!rules.opens() || !rules.makesLeads()) {
            return OpeningResult.nothing(m.item(), "Its guests have addresses at public mail providers alone.");
        }
        for (Condition c : rules.conditions()) {
            if (c.field() != Field.FIRST_MEETING && !c.holds(value(c.field(), m, null))) {
                return OpeningResult.nothing(m.item(), unmet(c, value(c.field(), m, null)));
            }
        }
        if (made >= rules.mostADay()) {
            return OpeningResult.none(
                    m.item(),
                    Did.WAITS,
                    "The policy makes at most " + rules.mostADay() + " a day, and made as many today.");
        }
        made++;
        return new OpeningResult(
                m.item(),
                Did.LEADS,
                "",
                "",
                null,
                null,
                "",
                free,
                List.of(),
                "Its guests have addresses at public mail providers alone.");
    }

    private OpeningResult result(
            OpeningMeeting m, Did did, String key, String account, @Nullable UUID joins, String name, String why) {
        List<Guest> ofIt = m.guests().stream().filter(g -> g.key().equals(key)).toList();
        return new OpeningResult(
                m.item(),
                did,
                key,
                account,
                joins,
                did == Did.OPENED ? owner(m, ofIt) : null,
                name,
                rules.makesContacts() ? ofIt.stream().filter(Guest::isStranger).toList() : List.of(),
                ofIt.stream()
                        .map(Guest::contact)
                        .filter(Objects::nonNull)
                        .distinct()
                        .toList(),
                why);
    }

    /** Why the policy does not ask for this meeting; empty where it does. */
    private String notAsked(OpeningMeeting m) {
        if (m.kept()) {
            return "It is kept private.";
        }
        if (m.facts().state() == MeetingItem.State.CANCELLED) {
            return "It is cancelled.";
        }
        if (m.guests().isEmpty()) {
            return "Nobody from outside takes part.";
        }
        if (!rules.kinds().contains(m.facts().sort())) {
            return "It is a " + m.facts().sort().word() + ".";
        }
        String title = m.facts().subject().toLowerCase(Locale.ROOT);
        if (!rules.words().isEmpty()
                && rules.words().stream().noneMatch(w -> title.contains(w.toLowerCase(Locale.ROOT)))) {
            return "Its title has none of the words asked for.";
        }
        if (!rules.calendars().isEmpty()
                && rules.calendars().stream().noneMatch(c -> c.equalsIgnoreCase(m.calendar()))) {
            return "It is in none of the calendars asked for.";
        }
        return "";
    }

    private static String unmet(Condition c, long is) {
        return "The policy asks for " + c.words() + "; it is " + is + ".";
    }

    private static boolean isFirst(OpeningMeeting m, @Nullable First first) {
        return first == null
                || first.item().equals(m.item())
                || !first.at().isBefore(m.facts().at());
    }

    private static long value(Field field, OpeningMeeting m, @Nullable Account account) {
        return switch (field) {
            case OURS_INVITED -> m.organiser() == null ? 0 : 1;
            case ACCEPTED -> m.accepted() ? 1 : 0;
            case FIRST_MEETING -> throw new IllegalArgumentException("asked of what opens alone");
            case KNOWN_ACCOUNT -> account == null ? 0 : 1;
            case GUESTS -> m.guests().size();
            case PEOPLE -> m.ours().size();
            case MINUTES -> Duration.between(m.facts().at(), m.facts().ends()).toMinutes();
            case RECURRING -> m.facts().recurrence() == null ? 0 : 1;
        };
    }

    /** The account of the one from outside who invited, else the one with most guests; of those, one that is on record before others. */
    private static Optional<String> target(OpeningMeeting m) {
        Map<String, Long> guests = m.guests().stream()
                .filter(g -> !g.key().isEmpty())
                .collect(Collectors.groupingBy(Guest::key, LinkedHashMap::new, Collectors.counting()));
        return m.guests().stream()
                .filter(g -> g.invited() && !g.key().isEmpty())
                .map(Guest::key)
                .findFirst()
                .or(() -> guests.keySet().stream()
                        .min(Comparator.comparing((String k) -> -guests.getOrDefault(k, 0L))
                                .thenComparing(k -> k.startsWith("@"))
                                .thenComparing(Comparator.naturalOrder())));
    }

    private UUID owner(OpeningMeeting m, List<Guest> ofIt) {
        UUID invited = m.organiser() == null ? m.ours().get(0) : m.organiser();
        return switch (rules.owner()) {
            case ORGANISER -> invited;
            case FIRST_OF_OURS -> m.ours().get(0);
            case ACCOUNT_OWNER ->
                ofIt.stream()
                        .map(Guest::account)
                        .filter(Objects::nonNull)
                        .map(Account::owner)
                        .filter(Objects::nonNull)
                        .findFirst()
                        .orElse(invited);
        };
    }

    /** Without the title where not everybody may read it. */
    private String named(OpeningMeeting m, String account) {
        String with = m.guests().stream()
                .map(g -> g.name().isBlank() ? g.address().toString() : g.name())
                .findFirst()
                .orElse("");
        StringBuilder name = new StringBuilder();
        String rest = rules.name();
        while (!rest.isEmpty()) {
            // what is filled in is never looked at again
            int next = rest.indexOf('{');
            int end = next < 0 ? -1 : rest.indexOf('}', next);
            if (end < 0) {
                name.append(rest);
                break;
            }
            String part = rest.substring(next, end + 1);
            name.append(rest, 0, next)
                    .append(
                            switch (part) {
                                case Opening.ACCOUNT -> account;
                                case Opening.WITH -> with;
                                default -> m.forAll() ? m.facts().subject() : "";
                            });
            rest = rest.substring(end + 1);
        }
        String plain = name.toString().replaceAll("\\s+", " ").replaceAll("(^[\\s:,;–-]+|[\\s:,;–-]+$)", "");
        String fitting = plain.isEmpty() ? account : plain;
        return fitting.length() <= LONGEST_NAME
                ? fitting
                : fitting.substring(0, LONGEST_NAME - 1).strip() + "…";
    }

    /** What an account that is made of a domain is called. */
    public static String titled(String domain) {
        String label = domain.indexOf('.') < 0 ? domain : domain.substring(0, domain.indexOf('.'));
        return label.substring(0, 1).toUpperCase(Locale.ROOT) + label.substring(1);
    }
}
