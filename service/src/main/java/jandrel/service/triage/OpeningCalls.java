package jandrel.service.triage;

import jandrel.api.PolicyApi.OpeningInfo;
import jandrel.api.PolicyApi.OpeningTrial;
import jandrel.api.PolicyApi.WouldOpen;
import jandrel.core.opening.OpeningResult;
import jandrel.core.opening.OpeningResult.Did;
import jandrel.core.policy.Opening;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.service.policy.PolicyWords;
import jandrel.store.timeline.Timelines;
import jandrel.store.triage.OpeningRows;
import jandrel.store.triage.OpeningRows.Done;
import jandrel.store.triage.OpeningRows.Looked;
import jandrel.store.triage.Strangers;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Opportunities by meeting: what a policy would open, and what meetings opened. */
@RestController
class OpeningCalls {
    private static final int MOST_SHOWN = 100;
    private static final int MOST_DAYS = 366;
    private final OpeningRows rows;
    private final Strangers strangers;
    private final Timelines timelines;
    private final PinCalls pins;
    private final Clock clock;

    OpeningCalls(OpeningRows rows, Strangers strangers, Timelines timelines, PinCalls pins, Clock clock) {
        this.rows = rows;
        this.strangers = strangers;
        this.timelines = timelines;
        this.pins = pins;
        this.clock = clock;
    }

    /** What the meetings of some days back would have opened and joined by these settings; nothing is done. */
    @PostMapping("/api/policies/{id}/would-open")
    WouldOpen wouldOpen(
            @PathVariable("id") UUID id, @RequestBody OpeningTrial trial, @AuthenticationPrincipal SignedIn me) {
        if (trial.days() < 1 || trial.days() > MOST_DAYS) {
            throw Refusal.bad("“days” goes from 1 to " + MOST_DAYS, "Say how many days back meetings are looked at.");
        }
        Opening rules = PolicyWords.opening(trial.rules());
        Instant until = clock.instant();
        Instant from = until.minus(Duration.ofDays(trial.days()));
        List<Looked> all = rows.all(rules, strangers.coveredBy(id), from, until, me.viewer());
        List<Looked> read = all.stream().filter(Looked::reads).toList();
        // the others as a number that is no single one's
        boolean several = all.size() - read.size() >= Visibility.SEVERAL;
        List<Looked> counted = several ? all : read;
        return new WouldOpen(
                from.toString(),
                until.toString(),
                count(counted, Did.OPENED),
                count(counted, Did.JOINED),
                count(counted, Did.LEADS),
                count(counted, Did.NOTHING),
                several ? all.size() - read.size() : 0,
                read.stream()
                        .sorted(Comparator.comparing((Looked l) -> l.result().did())
                                .thenComparing(l -> l.meeting().facts().at(), Comparator.reverseOrder()))
                        .limit(MOST_SHOWN)
                        .map(OpeningCalls::shown)
                        .toList());
    }

    private static long count(List<Looked> all, Did did) {
        return all.stream().filter(l -> l.result().did() == did).count();
    }

    private static OpeningInfo shown(Looked looked) {
        OpeningResult r = looked.result();
        return new OpeningInfo(
                r.item(),
                looked.meeting().facts().at(),
                looked.meeting().facts().subject(),
                r.did().name().toLowerCase(Locale.ROOT),
                r.account(),
                r.opportunity(),
                r.name(),
                "",
                r.why());
    }

    /** What a meeting did that the asker reads in full. */
    @GetMapping("/api/items/{item}/opening")
    OpeningInfo ofMeeting(@PathVariable("item") UUID item, @AuthenticationPrincipal SignedIn me) {
        pins.mayRead(item, me);
        return rows.of(item)
                .map(d -> done(d, me, true))
                .orElseGet(() -> new OpeningInfo(item, null, "", "", "", null, "", "", ""));
    }

    /** The meetings that opened an opportunity, or joined it by a policy; by name those alone that the asker reads. */
    @GetMapping("/api/records/{id}/openings")
    List<OpeningInfo> ofOpportunity(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        return rows.ofOpportunity(id, MOST_SHOWN).stream()
                .map(d -> done(d, me, false))
                .toList();
    }

    private OpeningInfo done(Done d, SignedIn me, boolean reads) {
        Optional<Timelines.Entry> entry = timelines
                .open(d.item(), me.viewer())
                .map(Timelines.Opened::entry)
                .filter(e -> e.visibility() == Visibility.FULL);
        @Nullable Instant at = entry.map(Timelines.Entry::at).orElse(null);
        return new OpeningInfo(
                entry.isPresent() || reads ? d.item() : null,
                at,
                entry.map(e -> e.item() == null ? "" : e.item().subject()).orElse(""),
                d.did(),
                "",
                d.opportunity(),
                d.name() == null ? "" : d.name(),
                d.policyName(),
                entry.isPresent() || reads ? d.why() : "");
    }
}
