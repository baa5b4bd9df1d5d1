package jandrel.service.triage;

import jandrel.api.TriageApi.Choice;
import jandrel.api.TriageApi.DeedInfo;
import jandrel.api.TriageApi.DomainInfo;
import jandrel.api.TriageApi.LikelyInfo;
import jandrel.api.TriageApi.MadeRecord;
import jandrel.api.TriageApi.NewRecord;
import jandrel.api.TriageApi.Settled;
import jandrel.api.TriageApi.StrangerInfo;
import jandrel.api.TriageApi.StrangerPage;
import jandrel.core.directory.ImportRejected;
import jandrel.core.triage.Stranger;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.triage.Strangers;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Strangers, gathered under their domains, best first; one choice settles a row or a domain. */
@RestController
class TriageCalls {
    private static final int MOST_DEEDS = 50;
    private final Strangers strangers;
    private final Settling settling;
    private final PinCalls pins;
    private final WakeUp nudges;
    private final Clock clock;

    TriageCalls(Strangers strangers, Settling settling, PinCalls pins, WakeUp nudges, Clock clock) {
        this.pins = pins;
        this.strangers = strangers;
        this.settling = settling;
        this.nudges = nudges;
        this.clock = clock;
    }

    /** A rep gets those of their own mail; everybody else those of all that they read in full. */
    @GetMapping("/api/triage")
    StrangerPage page(
            @RequestParam(name = "find", defaultValue = "") String find,
            @RequestParam(name = "limit", defaultValue = "100") int limit,
            @AuthenticationPrincipal SignedIn me) {
        List<Stranger> all = strangers.all(me.viewer(), find.strip(), clock.instant());
        List<Stranger> shown = all.subList(0, Math.min(all.size(), Paging.limit(limit)));
        List<Strangers.Meant> meant = shown.stream()
                .map(s -> new Strangers.Meant(s.address(), s.domain(), s.name()))
                .toList();
        Map<String, List<LikelyInfo>> likely = new HashMap<>();
        Stream.concat(strangers.alike(me.viewer(), meant).stream(), strangers.likely(meant).stream())
                .forEach(l -> add(l, likely.computeIfAbsent(l.address(), a -> new ArrayList<>())));
        Map<String, List<Stranger>> byDomain = new LinkedHashMap<>();
        shown.forEach(s ->
                byDomain.computeIfAbsent(s.domain(), d -> new ArrayList<>()).add(s));
        List<DomainInfo> domains = new ArrayList<>();
        byDomain.forEach((domain, those) -> domains.add(new DomainInfo(
                domain,
                those.get(0).freeMail(),
                those.stream().mapToLong(Stranger::items).sum(),
                those.stream().mapToLong(Stranger::waiting).sum(),
                those.stream()
                        .map(s -> shown(s, likely.getOrDefault(s.address(), List.of())))
                        .toList())));
        return new StrangerPage(
                all.size(), all.stream().filter(s -> s.waiting() > 0).count(), domains);
    }

    /** Several reasons for one record stand together. */
    private static void add(Strangers.Likely l, List<LikelyInfo> to) {
        for (int i = 0; i < to.size(); i++) {
            if (to.get(i).id().equals(l.id())) {
                to.set(i, new LikelyInfo(l.kind(), l.id(), l.name(), to.get(i).why() + "; " + l.why()));
                return;
            }
        }
        to.add(new LikelyInfo(l.kind(), l.id(), l.name(), l.why()));
    }

    private static StrangerInfo shown(Stranger s, List<LikelyInfo> likely) {
        return new StrangerInfo(
                s.address(),
                s.name(),
                s.in(),
                s.out(),
                s.beside(),
                s.meetings(),
                s.items(),
                s.waiting(),
                s.people(),
                s.first(),
                s.last(),
                s.isTwoWay(),
                s.bulk(),
                likely);
    }

    @PostMapping("/api/triage/settle")
    @LargestBody(kilobytes = 1024)
    Settled settle(@RequestBody Choice choice, @AuthenticationPrincipal SignedIn me) {
        try {
            Settled settled = settling.settle(choice, me);
            nudges.rulesChanged();
            return settled;
        } catch (ImportRejected misfit) {
            throw Refusal.bad(
                    "Nothing was changed",
                    String.valueOf(misfit.problems().get(0).reason()));
        }
    }

    /** A record of what an activity shows. */
    @PostMapping("/api/records")
    @ResponseStatus(HttpStatus.CREATED)
    MadeRecord make(@RequestBody NewRecord wanted, @AuthenticationPrincipal SignedIn me) {
        if (wanted.item() != null) {
            pins.mayRead(wanted.item(), me);
        }
        try {
            MadeRecord made = settling.make(wanted, me);
            nudges.rulesChanged();
            return made;
        } catch (ImportRejected misfit) {
            throw Refusal.bad(
                    "Nothing was made", String.valueOf(misfit.problems().get(0).reason()));
        }
    }

    @GetMapping("/api/triage/deeds")
    List<DeedInfo> deeds() {
        return strangers.deeds(MOST_DEEDS).stream()
                .map(d -> new DeedInfo(d.id(), d.at(), d.byLogin(), d.says(), d.undoneAt() != null))
                .toList();
    }

    /** Takes a choice back, whoever made it; items follow. */
    @PostMapping("/api/triage/deeds/{id}/undo")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void undo(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        settling.undo(id, me);
        nudges.rulesChanged();
    }
}
