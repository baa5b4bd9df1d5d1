package jandrel.service.triage;

import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.WouldMake;
import jandrel.core.triage.Stranger;
import jandrel.core.visibility.Visibility;
import jandrel.service.people.SignedIn;
import jandrel.service.policy.PolicyWords;
import jandrel.store.triage.Strangers;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What a policy's creation of contacts and leads would do now. */
@RestController
class WouldMakeCalls {
    private static final int MOST_SHOWN = 50;
    private final Strangers strangers;
    private final Clock clock;

    WouldMakeCalls(Strangers strangers, Clock clock) {
        this.strangers = strangers;
        this.clock = clock;
    }

    /** Whom it would make contacts or leads of now, by these conditions; nothing is made. */
    @PostMapping("/api/policies/{id}/would-make")
    WouldMake wouldMake(
            @PathVariable("id") UUID id, @RequestBody CreationRules wanted, @AuthenticationPrincipal SignedIn me) {
        List<Stranger> met = strangers.meeting(id, PolicyWords.creation(wanted), clock.instant());
        // by name those alone whom the asker may know of, and the others as a number that is no single one's
        Set<String> known =
                strangers.meant(me.viewer(), met.stream().map(Stranger::address).toList(), List.of()).stream()
                        .map(Strangers.Meant::address)
                        .collect(Collectors.toSet());
        List<Stranger> named =
                met.stream().filter(s -> known.contains(s.address())).toList();
        boolean several = met.size() - named.size() >= Visibility.SEVERAL;
        return new WouldMake(
                several ? met.size() : named.size(),
                named.stream()
                        .limit(MOST_SHOWN)
                        .map(s -> (s.name().isEmpty() ? "" : s.name() + ", ") + s.address())
                        .toList());
    }
}
