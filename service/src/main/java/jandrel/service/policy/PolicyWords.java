package jandrel.service.policy;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.FolderRules;
import jandrel.api.PolicyApi.KeepingRules;
import jandrel.api.PolicyApi.OpeningRules;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.core.directory.OwnFields;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Keywords;
import jandrel.core.policy.Audience;
import jandrel.core.policy.Creation;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Folders;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Keeping;
import jandrel.core.policy.Keeping.Stands;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Rhythm;
import jandrel.core.policy.Scope;
import jandrel.core.policy.Ties;
import jandrel.core.policy.Titles;
import jandrel.service.kernel.Refusal;
import java.time.DayOfWeek;
import java.time.LocalTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** A policy in the API's words, and back. Every word that does not fit is named at once. */
public final class PolicyWords {
    private static final int LONGEST_NAME = 100;
    private static final int MOST_WORDS = 30;
    private static final Pattern LETTERS = Pattern.compile("[\\p{L}\\p{N}]");
    private final List<String> problems = new ArrayList<>();

    private final OwnFields own;

    private PolicyWords(OwnFields own) {
        this.own = own;
    }

    public static PolicyRules rules(Policy p) {
        Audience a = p.audience();
        return new PolicyRules(
                p.name(),
                new AudienceInfo(a.everyone(), sorted(a.people()), sorted(a.teams()), sorted(a.roles())),
                p.scope().received(),
                p.scope().sent(),
                word(p.scope().meetings()),
                word(p.scope().contacts()),
                p.scope().backDays(),
                p.scope().aheadDays(),
                word(p.handling().privateItems()),
                word(p.handling().cancelled()),
                word(p.handling().deleted()),
                word(p.handling().deletedMail()),
                p.handling().loggedKeyword(),
                word(p.handling().series()),
                words(p.ties().kinds()),
                word(p.ties().tieBreak()),
                p.ties().forwarded(),
                word(p.sharing()),
                p.rhythm().minutes(),
                words(p.rhythm().days()),
                p.rhythm().times().stream().map(LocalTime::toString).toList(),
                words(p.outward()),
                keeping(p.keeping()),
                new FolderRules(
                        p.scope().folders().include(), p.scope().folders().exclude()),
                creation(p.creation()),
                BookWords.rule(p.books()),
                OpeningWords.rules(p.opening()));
    }

    /**
     * @param own fields that conditions may ask for
     * @throws Refusal naming all that does not fit
     */
    public static Policy policy(UUID id, int version, PolicyRules r, OwnFields own) {
        PolicyWords in = new PolicyWords(own);
        Policy policy = in.read(id, version, r);
        if (!in.problems.isEmpty()) {
            throw Refusal.bad("The policy does not fit together", String.join(" ", in.problems));
        }
        return policy;
    }

    private Policy read(UUID id, int version, PolicyRules r) {
        String name = r.name().strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            problems.add("“name” needs 1 to " + LONGEST_NAME + " characters.");
        }
        AudienceInfo a = r.audience();
        Audience audience =
                new Audience(a.everyone(), Set.copyOf(a.people()), Set.copyOf(a.teams()), Set.copyOf(a.roles()));
        return new Policy(
                id,
                version,
                name,
                audience,
                new Scope(
                        r.received(),
                        r.sent(),
                        one("meetings", Direction.class, r.meetings(), Direction.IN),
                        one("contacts", Direction.class, r.contacts(), Direction.NONE),
                        days("backDays", r.backDays()),
                        days("aheadDays", r.aheadDays()),
                        folders(r.folders())),
                new Handling(
                        one("privateItems", Handling.Private.class, r.privateItems(), Handling.Private.OUTLINE),
                        one("cancelled", Handling.Vanished.class, r.cancelled(), Handling.Vanished.REMOVE),
                        one("deleted", Handling.Vanished.class, r.deleted(), Handling.Vanished.REMOVE),
                        one(
                                "deletedMail",
                                Handling.Vanished.class,
                                Objects.requireNonNullElse(r.deletedMail(), "keep"),
                                Handling.Vanished.KEEP),
                        one("series", Handling.Series.class, r.series(), Handling.Series.EACH_OCCURRENCE),
                        keyword(Objects.requireNonNullElse(r.loggedKeyword(), ""))),
                new Ties(
                        several("matched", RecordKind.class, r.matched()),
                        one("tieBreak", Ties.TieBreak.class, r.tieBreak(), Ties.TieBreak.OWNER_THEN_RECENT),
                        Boolean.TRUE.equals(r.forwarded())),
                one("sharing", Policy.Sharing.class, r.sharing(), Policy.Sharing.EVERYONE),
                rhythm(r),
                several("outward", Policy.OutwardKind.class, r.outward()),
                keeping(r.keeping()),
                read(r.creation()),
                new BookWords(this::one, own, problems).rules(r.books()),
                OpeningWords.opening(r.opening(), this::one, problems));
    }

    private static CreationRules creation(Creation c) {
        return new CreationRules(
                word(c.makes()),
                c.conditions().stream()
                        .map(o -> new ConditionRule(
                                o.field().word(), o.comparison().word(), o.value()))
                        .toList());
    }

    /** @throws Refusal naming all that does not fit */
    public static Creation creation(CreationRules rules) {
        PolicyWords in = new PolicyWords(OwnFields.NONE);
        Creation creation = in.read(rules);
        if (!in.problems.isEmpty()) {
            throw Refusal.bad("The conditions do not fit together", String.join(" ", in.problems));
        }
        return creation;
    }

    /** @throws Refusal naming all that does not fit */
    public static Opening opening(OpeningRules rules) {
        PolicyWords in = new PolicyWords(OwnFields.NONE);
        Opening opening = OpeningWords.opening(rules, in::one, in.problems);
        if (!in.problems.isEmpty()) {
            throw Refusal.bad("What meetings are to open does not fit together", String.join(" ", in.problems));
        }
        return opening;
    }

    private Creation read(@Nullable CreationRules c) {
        if (c == null) {
            return Creation.NONE;
        }
        Creation.Makes makes = one("creation.makes", Creation.Makes.class, c.makes(), Creation.Makes.NOTHING);
        List<Creation.Condition> conditions = c.conditions().stream()
                .map(o -> new Creation.Condition(
                        one("creation.field", Creation.Field.class, o.field(), Creation.Field.ITEMS),
                        one("creation.comparison", Creation.Comparison.class, o.comparison(), Creation.Comparison.IS),
                        o.value()))
                .toList();
        if (makes != Creation.Makes.NOTHING && conditions.isEmpty()) {
            problems.add("“creation” needs at least one condition: without any it would make records of everybody.");
        }
        if (conditions.size() > MOST_WORDS) {
            problems.add("“creation” has at most " + MOST_WORDS + " conditions.");
        }
        return new Creation(makes, conditions);
    }

    private static KeepingRules keeping(Keeping k) {
        return new KeepingRules(
                k.title(), k.rings(), word(k.wins()), k.deletionWins(), word(k.deletedHere()), k.asks(), k.missed());
    }

    private Keeping keeping(@Nullable KeepingRules k) {
        if (k == null) {
            return Keeping.SAFE;
        }
        if (!Titles.fits(k.title())) {
            problems.add("“keeping.title” is “" + k.title()
                    + "”; it needs {title} once, and may have {account} and {with}.");
        }
        return new Keeping(
                k.title(),
                k.calendarRings(),
                one("keeping.wins", Stands.class, k.wins(), Stands.LATER),
                k.deletionWins(),
                one("keeping.deletedHere", Keeping.DeletedHere.class, k.deletedHere(), Keeping.DeletedHere.REMOVE),
                Boolean.TRUE.equals(k.asks()),
                missed(Objects.requireNonNullElse(k.missed(), List.of())));
    }

    private Folders folders(@Nullable FolderRules f) {
        if (f == null) {
            return Folders.SAFE;
        }
        for (List<String> words : List.of(f.include(), f.exclude())) {
            if (words.size() > MOST_WORDS || words.stream().anyMatch(w -> w.isBlank() || w.length() > LONGEST_NAME)) {
                problems.add("“folders” has at most " + MOST_WORDS + " names each way, none of them empty.");
                return Folders.SAFE;
            }
        }
        if (f.include().isEmpty() && f.exclude().isEmpty()) {
            return Folders.SAFE;
        }
        return new Folders(f.include(), f.exclude());
    }

    private List<String> missed(List<String> written) {
        List<String> words = written.stream().map(String::strip).distinct().toList();
        if (words.size() > MOST_WORDS
                || words.stream()
                        .anyMatch(w ->
                                w.length() > LONGEST_NAME || !LETTERS.matcher(w).find())) {
            problems.add("“keeping.missed” has at most " + MOST_WORDS + " words, each with a letter or digit in it.");
            return List.of();
        }
        return words;
    }

    private String keyword(String written) {
        if (!written.isEmpty() && !Keywords.fits(written)) {
            problems.add("“loggedKeyword” is “" + written + "”; " + Keywords.RULE);
        }
        return written;
    }

    private int days(String field, int days) {
        if (days < 0 || days > Scope.MOST_DAYS) {
            problems.add("“" + field + "” goes from 0 to " + Scope.MOST_DAYS + ".");
            return 0;
        }
        return days;
    }

    private Rhythm rhythm(PolicyRules r) {
        List<LocalTime> times = new ArrayList<>();
        for (String time : r.times()) {
            try {
                times.add(LocalTime.parse(time));
            } catch (DateTimeParseException no) {
                problems.add("“times” has “" + time + "”; write a time as 07:30.");
            }
        }
        if (r.everyMinutes() < 0 || r.everyMinutes() > 10_080) {
            problems.add("“everyMinutes” goes from 0 (the service’s own pace) to 10080 (a week).");
            return Rhythm.SAFE;
        }
        return new Rhythm(r.everyMinutes(), several("days", DayOfWeek.class, r.days()), times);
    }

    private <E extends Enum<E>> E one(String field, Class<E> type, String word, E otherwise) {
        return Arrays.stream(type.getEnumConstants())
                .filter(e -> word(e).equals(word))
                .findFirst()
                .orElseGet(() -> {
                    String all = Arrays.stream(type.getEnumConstants())
                            .map(PolicyWords::word)
                            .collect(Collectors.joining(", "));
                    problems.add("“" + field + "” is “" + word + "”; it can be " + all + ".");
                    return otherwise;
                });
    }

    private <E extends Enum<E>> Set<E> several(String field, Class<E> type, List<String> words) {
        Set<E> found = new LinkedHashSet<>();
        E first = type.getEnumConstants()[0];
        words.forEach(w -> found.add(one(field, type, w, first)));
        return found;
    }

    public static String word(Enum<?> value) {
        return OneWord.word(value);
    }

    private static <E extends Enum<E>> List<String> words(Collection<E> values) {
        return new TreeSet<>(values).stream().map(PolicyWords::word).toList();
    }

    private static List<String> sorted(Collection<String> texts) {
        return texts.stream().sorted().toList();
    }
}
