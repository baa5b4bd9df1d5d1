package jandrel.service.meetings;

import jandrel.api.MeetingApi.ConflictInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.core.reconcile.Details;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.meetings.MeetingLedger;
import jandrel.store.meetings.MeetingLedger.Kept;
import jandrel.store.meetings.Meetings;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** What was changed on both sides at once, and what lost. */
@RestController
class ConflictCalls {
    private static final int MOST = 200;
    private final MeetingLedger ledger;
    private final ManagedMeetings plans;
    private final Meetings meetings;
    private final Stands stands;

    ConflictCalls(MeetingLedger ledger, ManagedMeetings plans, Meetings meetings, Stands stands) {
        this.ledger = ledger;
        this.plans = plans;
        this.meetings = meetings;
        this.stands = stands;
    }

    /**
     * Those that the asker reads, the latest first.
     *
     * @param plan null for those of all
     */
    List<ConflictInfo> of(@Nullable ManagedMeeting plan, SignedIn me) {
        List<ConflictInfo> shown = new ArrayList<>();
        Map<UUID, Boolean> readable = new HashMap<>();
        for (Kept kept : ledger.conflicts(plan == null ? null : plan.id(), MOST)) {
            ManagedMeeting of = plan == null ? plans.one(kept.plan()).orElseThrow() : plan;
            boolean reads = readable.computeIfAbsent(
                    of.item(),
                    item -> of.owner().equals(me.person())
                            || meetings.one(item, me.viewer())
                                    .filter(m -> m.visibility() == Visibility.FULL)
                                    .isPresent());
            if (reads) {
                shown.add(info(kept, of));
            }
        }
        return shown;
    }

    private static ConflictInfo info(Kept kept, ManagedMeeting plan) {
        Details details = plan.details();
        return new ConflictInfo(
                kept.id(),
                plan.item(),
                details == null ? plan.template().subject() : details.title(),
                kept.at(),
                kept.field() == null ? "deleted" : kept.field().name().toLowerCase(Locale.ROOT),
                kept.hereWon() ? "here" : "calendar",
                kept.here(),
                kept.calendar(),
                kept.canComeBack(),
                kept.broughtBackBy());
    }

    /** All that the asker may read, the latest first. */
    @GetMapping("/api/conflicts")
    List<ConflictInfo> conflicts(@AuthenticationPrincipal SignedIn me) {
        return of(null, me);
    }

    @PostMapping("/api/conflicts/{id}/bring-back")
    MadeMeeting bringBack(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Kept kept = ledger.conflict(id).orElseThrow(() -> Refusal.notFound("conflict"));
        ManagedMeeting plan = plans.one(kept.plan()).orElseThrow();
        if (!plan.owner().equals(me.person()) && me.role() != Role.ADMINISTRATOR) {
            throw Refusal.notFound("conflict");
        }
        if (of(plan, me).isEmpty()) {
            throw Refusal.notFound("conflict");
        }
        if (!ledger.bringBack(id, me.name())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "There is nothing to bring back",
                    "It was brought back before, or was a deletion.");
        }
        return stands.settled("Brought back", plan.item(), plan.id());
    }
}
