package jandrel.service.triage;

import jandrel.api.TriageApi.Pin;
import jandrel.core.visibility.Visibility;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.RecordRef;
import jandrel.store.directory.RecordRefs;
import jandrel.store.timeline.Decisions;
import jandrel.store.triage.Pins;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Ties a kept item to a record, by the choice of somebody who reads it in full. */
@RestController
class PinCalls {
    private final Pins pins;
    private final RecordRefs records;
    private final Decisions decisions;
    private final WakeUp nudges;

    PinCalls(Pins pins, RecordRefs records, Decisions decisions, WakeUp nudges) {
        this.pins = pins;
        this.records = records;
        this.decisions = decisions;
        this.nudges = nudges;
    }

    @PostMapping("/api/items/{item}/pins")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void pin(@PathVariable("item") UUID item, @RequestBody Pin wanted, @AuthenticationPrincipal SignedIn me) {
        mayRead(item, me);
        RecordRef target = records.find(wanted.record()).orElseThrow(() -> Refusal.notFound("record"));
        pins.pin(item, target, me.name());
        nudges.rulesChanged();
    }

    @DeleteMapping("/api/items/{item}/pins/{record}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void unpin(
            @PathVariable("item") UUID item,
            @PathVariable("record") UUID record,
            @AuthenticationPrincipal SignedIn me) {
        mayRead(item, me);
        pins.unpin(item, record, me.name());
        nudges.rulesChanged();
    }

    /** @throws Refusal if the asker does not read the item in full */
    void mayRead(UUID item, SignedIn me) {
        boolean reads = Stream.concat(
                        decisions.of(item, me.viewer()).stream(), decisions.one(item, me.viewer()).stream())
                .anyMatch(d -> d.visibility() == Visibility.FULL && d.item() != null);
        if (!reads) {
            throw Refusal.notFound("item");
        }
    }
}
