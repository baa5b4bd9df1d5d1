package jandrel.service.policy;

import jandrel.api.Rehearsals.Background;
import jandrel.api.Rehearsals.Change;
import jandrel.api.Rehearsals.RehearsalInfo;
import jandrel.api.Rehearsals.Report;
import jandrel.service.Refusal;
import jandrel.service.capture.Nudges;
import jandrel.service.people.SignedIn;
import jandrel.store.Positions;
import jandrel.store.Reconsidering;
import jandrel.store.RehearsalMapper;
import jandrel.store.RehearsalMapper.Row;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/** Rehearsals: asked for, followed, stopped; and then applied, paused and undone. */
@RestController
class RehearsalCalls {
    private final RehearsalMapper rehearsals;
    private final Rehearser rehearser;
    private final Changes changes;
    private final Reconsidering reconsidering;
    private final Positions positions;
    private final Nudges nudges;
    private final JsonMapper json;

    RehearsalCalls(
            RehearsalMapper rehearsals,
            Rehearser rehearser,
            Changes changes,
            Reconsidering reconsidering,
            Positions positions,
            Nudges nudges,
            JsonMapper json) {
        this.rehearsals = rehearsals;
        this.rehearser = rehearser;
        this.changes = changes;
        this.reconsidering = reconsidering;
        this.positions = positions;
        this.nudges = nudges;
        this.json = json;
    }

    @PostMapping("/api/rehearsals")
    @ResponseStatus(HttpStatus.ACCEPTED)
    RehearsalInfo ask(@RequestBody Change change, @AuthenticationPrincipal SignedIn me) {
        UUID id = UUID.randomUUID();
        var draft = changes.draft(change);
        var notes = changes.notes(change);
        rehearsals.ask(id, me.login(), json.writeValueAsString(change));
        rehearser.begin(id, draft, notes, me.viewer());
        return one(id);
    }

    @GetMapping("/api/rehearsals/{id}")
    RehearsalInfo one(@PathVariable("id") UUID id) {
        Row r = known(id);
        Report report = r.report() == null ? null : json.readValue(r.report(), Report.class);
        return new RehearsalInfo(
                r.id(), r.state(), r.done(), r.total(), report, r.detail(), r.generation() != rehearsals.generation());
    }

    private Row known(UUID id) {
        return rehearsals.find(id).orElseThrow(() -> Refusal.notFound("rehearsal"));
    }

    /** Stops it; what it has added up so far is kept. */
    @DeleteMapping("/api/rehearsals/{id}")
    RehearsalInfo stop(@PathVariable("id") UUID id) {
        known(id);
        rehearser.stop(id);
        return one(id);
    }

    /** Makes the change that was rehearsed. What follows from it goes on in the background. */
    @PostMapping("/api/rehearsals/{id}/apply")
    RehearsalInfo apply(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Row r = known(id);
        if (!r.state().equals("done")) {
            throw Refusal.of(
                    HttpStatus.CONFLICT, "The rehearsal is " + r.state(), "Only one that is done can be applied.");
        }
        if (r.generation() != rehearsals.generation()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "The rules have changed since this was rehearsed",
                    "Rehearse it once more: the numbers may be others now.");
        }
        Change back = changes.make(json.readValue(r.change(), Change.class), me.login());
        rehearsals.applied(id, text(back));
        nudges.rulesChanged();
        return one(id);
    }

    private @Nullable String text(@Nullable Change back) {
        return back == null ? null : json.writeValueAsString(back);
    }

    /** Takes back what was applied, as long as nobody has changed the same thing since. */
    @PostMapping("/api/rehearsals/{id}/undo")
    RehearsalInfo undo(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Row r = known(id);
        if (!r.state().equals("applied") || r.undo() == null) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "This cannot be taken back in one step",
                    "It was not applied, or what it removed has to be added by hand.");
        }
        changes.make(json.readValue(r.undo(), Change.class), me.login());
        rehearsals.undone(id);
        nudges.rulesChanged();
        return one(id);
    }

    /** What the changes so far left to do. */
    @GetMapping("/api/background")
    Background background() {
        return new Background(reconsidering.left(), positions.allToRefetch(), reconsidering.paused());
    }

    @PostMapping("/api/background/pause")
    Background pause(@AuthenticationPrincipal SignedIn me) {
        reconsidering.pause(true, me.login());
        return background();
    }

    @PostMapping("/api/background/resume")
    Background resume(@AuthenticationPrincipal SignedIn me) {
        reconsidering.pause(false, me.login());
        nudges.rulesChanged();
        return background();
    }
}
