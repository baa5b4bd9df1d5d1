package jandrel.service.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.Deal;
import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.MetAccount;
import jandrel.core.measures.Only;
import jandrel.core.measures.SellingFigures;
import jandrel.core.measures.SellingHistory;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Span;
import jandrel.core.measures.TeamHistory;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What figures say in a sentence. */
class MeasureWordsTest {
    private static final UUID ACCOUNT = new UUID(1, 1);

    private static Change change(String day, Means means) {
        return new Change(Instant.parse(day + "T09:00:00Z"), "", means, new Worth(null, "", "once"), null, ACCOUNT, "");
    }

    /** One for each, won after a meeting whose standing is as it is given. */
    private static Sheet won(@Nullable Standing... standings) {
        List<MetAccount> met = new ArrayList<>();
        List<Deal> deals = new ArrayList<>();
        Instant begins = Instant.parse("2026-02-01T09:00:00Z");
        for (Standing standing : standings) {
            UUID deal = new UUID(2, deals.size());
            UUID id = new UUID(3, deals.size());
            met.add(new MetAccount(
                    id,
                    id,
                    ACCOUNT,
                    Set.of(deal),
                    begins,
                    begins,
                    new MetAccount.Signs(false, false, standing == Standing.MISSED, ""),
                    standing == null ? Readers.only(Set.of()) : Readers.EVERYONE,
                    null,
                    null,
                    ""));
            deals.add(new Deal(deal, List.of(change("2026-01-02", Means.OPEN), change("2026-03-03", Means.WON))));
        }
        SellingHistory.Seen seen = SellingHistory.NONE
                .with(Set.of(), met, Set.of(), deals)
                .seenBy(new Viewer(Role.MANAGER, new UUID(4, 1)), Instant.parse("2026-04-01T09:00:00Z"));
        return new SellingFigures(seen, new TeamHistory(List.of()), owner -> true)
                .toWin(
                        new Span(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-04-01"), ZoneOffset.UTC),
                        By.MONTH,
                        Only.ALL);
    }

    @Test
    void whoMayNotReadTheMeetingsIsNotToldThatThereWereNone() {
        assertThat(MeasureWords.of(Measure.TO_WIN, won(Standing.HELD)))
                .isEqualTo("1 opportunity was won, after 1 meeting and 60 days at the median.");
        assertThat(MeasureWords.of(Measure.TO_WIN, won(Standing.MISSED)))
                .isEqualTo("1 opportunity was won, after 0 meetings and 60 days at the median.");
        assertThat(MeasureWords.of(Measure.TO_WIN, won((Standing) null)))
                .isEqualTo("1 opportunity was won, after 60 days at the median.");
        assertThat(MeasureWords.of(Measure.TO_WIN, won(Standing.MISSED, null, null)))
                .isEqualTo("3 opportunities were won, after 60 days at the median.");
        assertThat(MeasureWords.hidden(Measure.TO_WIN, won((Standing) null).hidden()))
                .isEqualTo("The meetings of 1 opportunity are not counted, as you may not read all of them.");
    }
}
