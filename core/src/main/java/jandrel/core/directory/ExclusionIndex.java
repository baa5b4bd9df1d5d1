package jandrel.core.directory;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Predicate;

/**
 * The exclusions that a batch can meet. Those by address or domain are looked up; the others are tried one by one, so there should
 * not be thousands of them. Immutable; the order in which they were added says nothing.
 */
public final class ExclusionIndex {
    private static final Comparator<Exclusion> ORDER =
            Comparator.comparing(Exclusion::kind).thenComparing(Exclusion::what).thenComparing(Exclusion::id);

    /** None at all. */
    public static final ExclusionIndex NONE = new ExclusionIndex(List.of());

    private final Map<String, List<Exclusion>> byKey = new HashMap<>();
    private final List<Exclusion> others = new ArrayList<>();

    private final Set<String> dotless;

    public ExclusionIndex(List<Exclusion> all) {
        this(all, Set.of());
    }

    /** @param dotless domains whose provider ignores dots, with a leading {@code @} */
    ExclusionIndex(List<Exclusion> all, Set<String> dotless) {
        this.dotless = dotless;
        all.stream().sorted(ORDER).forEach(e -> {
            if (e.kind().byKey()) {
                byKey.computeIfAbsent(e.what(), k -> new ArrayList<>(1)).add(e);
                EmailAddress.parse(e.what())
                        .filter(this::ignoresDots)
                        .map(a -> a.withoutDots().toString())
                        .filter(plain -> !plain.equals(e.what()))
                        .ifPresent(plain -> byKey.computeIfAbsent(plain, k -> new ArrayList<>(1))
                                .add(e));
            } else {
                others.add(e);
            }
        });
    }

    /** The exclusion that covers the item, if one does: by address first, then by domain, then by what the item is like. */
    public Optional<Exclusion> covering(Item item, UUID policy, UUID person) {
        if (!byKey.isEmpty()) {
            for (Party party : item.parties()) {
                Optional<Exclusion> hit = byAddress(party.address(), e -> counts(e, item, policy, person));
                if (hit.isPresent()) {
                    return hit;
                }
            }
        }
        return others.stream()
                .filter(e -> counts(e, item, policy, person) && isLike(e, item))
                .findFirst();
    }

    /** The exclusion that covers an address on this day, if one does, whatever it stands on. */
    public Optional<Exclusion> covering(EmailAddress address, LocalDate day, UUID policy, UUID person) {
        Optional<Exclusion> hit =
                byKey.isEmpty() ? Optional.empty() : byAddress(address, e -> counts(e, day, policy, person));
        return hit.or(() -> others.stream()
                .filter(e -> e.kind() == Exclusion.Kind.PATTERN
                        && counts(e, day, policy, person)
                        && Wildcards.match(e.what(), address.toString()))
                .findFirst());
    }

    private boolean ignoresDots(EmailAddress address) {
        return dotless.contains("@" + address.domain());
    }

    private Optional<Exclusion> byAddress(EmailAddress address, Predicate<Exclusion> counts) {
        boolean nearest = true;
        if (ignoresDots(address)) {
            Optional<Exclusion> hit = first(address.withoutDots().toString(), counts, true);
            if (hit.isPresent()) {
                return hit;
            }
        }
        for (String key : address.keys()) {
            Optional<Exclusion> hit = first(key, counts, nearest);
            if (hit.isPresent()) {
                return hit;
            }
            nearest &= !key.startsWith("@");
        }
        return Optional.empty();
    }

    private Optional<Exclusion> first(String key, Predicate<Exclusion> counts, boolean nearest) {
        for (Exclusion e : byKey.getOrDefault(key, List.of())) {
            if ((nearest || e.kind() != Exclusion.Kind.DOMAIN_ALONE) && counts.test(e)) {
                return Optional.of(e);
            }
        }
        return Optional.empty();
    }

    private static boolean counts(Exclusion e, Item item, UUID policy, UUID person) {
        return counts(e, item.at().atOffset(ZoneOffset.UTC).toLocalDate(), policy, person);
    }

    private static boolean counts(Exclusion e, LocalDate day, UUID policy, UUID person) {
        Exclusion.Limits limits = e.limits();
        LocalDate last = limits.lastDay();
        return (limits.policy() == null || limits.policy().equals(policy))
                && (limits.person() == null || limits.person().equals(person))
                && (last == null || !day.isAfter(last));
    }

    private static boolean isLike(Exclusion e, Item item) {
        String what = e.what();
        return switch (e.kind()) {
            case ADDRESS, DOMAIN, DOMAIN_ALONE -> false;
            case PATTERN ->
                item.parties().stream()
                        .anyMatch(p -> Wildcards.match(what, p.address().toString()));
            case HEADER -> markers(item).stream().anyMatch(m -> Wildcards.match(what, m));
            case LIST -> markers(item).stream().anyMatch(m -> m.startsWith("list-id:") && m.contains("<" + what + ">"));
            case CATEGORY -> item instanceof MeetingItem m && m.categories().contains(what);
            case CLASS ->
                item instanceof MeetingItem m
                        && m.privacy().name().toLowerCase(Locale.ROOT).equals(what);
            case TITLE -> item instanceof MeetingItem m && hasWords(m.subject(), what);
        };
    }

    private static List<String> markers(Item item) {
        return item instanceof MailItem mail ? mail.markers() : List.of();
    }

    private static boolean hasWords(String title, String words) {
        List<String> there = List.of(title.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+", 0));
        return there.containsAll(List.of(words.split(" ", 0)));
    }
}
