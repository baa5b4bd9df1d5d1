package jandrel.service.policy;

import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.OpeningRules;
import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.policy.Creation.Comparison;
import jandrel.core.policy.Opening;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What a policy says of opportunities by meeting, in the API's words, and back. */
final class OpeningWords {
    private static final int MOST = 30;
    private static final int LONGEST = 100;
    private static final int MOST_DAYS = 365;
    private static final int MOST_A_DAY = 10_000;

    private OpeningWords() {}

    static OpeningRules rules(Opening o) {
        return new OpeningRules(
                OneWord.word(o.does()),
                o.conditions().stream()
                        .map(c -> new ConditionRule(
                                c.field().word(), c.comparison().word(), c.value()))
                        .toList(),
                o.words(),
                o.calendars(),
                new TreeSet<>(o.kinds()).stream().map(Sort::word).toList(),
                o.stage(),
                o.channel(),
                OneWord.word(o.owner()),
                o.name(),
                o.makesAccounts(),
                o.makesContacts(),
                o.makesLeads(),
                o.backDays(),
                o.mostADay());
    }

    /** @param problems gets what does not fit */
    static Opening opening(@Nullable OpeningRules r, OneWord one, List<String> problems) {
        if (r == null) {
            return Opening.NONE;
        }
        List<Opening.Condition> conditions = r.conditions().stream()
                .map(c -> new Opening.Condition(
                        one.of("opening.field", Opening.Field.class, c.field(), Opening.Field.GUESTS),
                        one.of("opening.comparison", Comparison.class, c.comparison(), Comparison.IS),
                        c.value()))
                .toList();
        Set<Sort> kinds = r.kinds().stream()
                .map(k -> one.of("opening.kinds", Sort.class, k, Sort.MEETING))
                .collect(Collectors.toSet());
        if (kinds.isEmpty()) {
            problems.add("“opening.kinds” names at least one of meeting, call and follow-up.");
        }
        if (conditions.size() > MOST || !fit(r.words()) || !fit(r.calendars())) {
            problems.add("“opening” has at most " + MOST + " conditions, words and calendars, no word empty.");
        }
        if (!Opening.fits(r.name())) {
            problems.add("“opening.name” is “" + r.name()
                    + "”; it needs a text, and may have {account}, {with} and {title}.");
        }
        if (r.stage().length() > LONGEST || r.channel().length() > LONGEST) {
            problems.add("“opening.stage” and “opening.channel” have at most " + LONGEST + " characters.");
        }
        if (r.backDays() < 0 || r.backDays() > MOST_DAYS) {
            problems.add("“opening.backDays” goes from 0 to " + MOST_DAYS + ".");
        }
        if (r.mostADay() < 1 || r.mostADay() > MOST_A_DAY) {
            problems.add("“opening.mostADay” goes from 1 to " + MOST_A_DAY + ".");
        }
        return new Opening(
                one.of("opening.does", Opening.Does.class, r.does(), Opening.Does.NOTHING),
                conditions,
                r.words().stream().map(String::strip).toList(),
                r.calendars().stream().map(String::strip).toList(),
                kinds,
                r.stage().strip(),
                r.channel().strip(),
                one.of("opening.owner", Opening.Owner.class, r.owner(), Opening.Owner.ORGANISER),
                r.name().strip(),
                r.makesAccounts(),
                r.makesContacts(),
                r.makesLeads(),
                r.backDays(),
                r.mostADay());
    }

    private static boolean fit(Collection<String> words) {
        return words.size() <= MOST && words.stream().allMatch(w -> !w.isBlank() && w.length() <= LONGEST);
    }
}
