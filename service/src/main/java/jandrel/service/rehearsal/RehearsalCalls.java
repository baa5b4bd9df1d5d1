package jandrel.service.rehearsal;

import jandrel.api.RehearsalApi.Change;
import jandrel.api.RehearsalApi.RehearsalInfo;
import jandrel.api.RehearsalApi.Report;
import jandrel.core.rehearse.Draft;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.rehearsal.Rehearsals.Row;
import jandrel.store.rehearsal.Rehearsing;
import java.util.List;
import java.util.UUID;
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

/** Rehearsals: asked for, followed, stopped, applied and undone, by whoever asked and nobody else. */
@RestController
class RehearsalCalls {
    private final Rehearsals rehearsals;
    private final Rehearsing rehearsing;
    private final Rehearser rehearser;
    private final Changes changes;
    private final WakeUp nudges;
    private final JsonMapper json;

    RehearsalCalls(
            Rehearsals rehearsals,
            Rehearsing rehearsing,
            Rehearser rehearser,
            Changes changes,
            WakeUp nudges,
            JsonMapper json) {
        this.rehearsals = rehearsals;
        this.rehearsing = rehearsing;
        this.rehearser = rehearser;
        this.changes = changes;
        this.nudges = nudges;
        this.json = json;
    }

    @PostMapping("/api/rehearsals")
    @LargestBody(kilobytes = 4096)
    @ResponseStatus(HttpStatus.ACCEPTED)
    RehearsalInfo ask(@RequestBody Change change, @AuthenticationPrincipal SignedIn me) {
        UUID id = UUID.randomUUID();
        // read before anything of the rules is: what changes after this makes the rehearsal an old one
        long generation = rehearsing.generation();
        Draft draft = changes.draft(change);
        List<String> notes = changes.notes(change);
        rehearsals.ask(id, me.login(), json.writeValueAsString(change), generation);
        rehearser.begin(id, draft, notes, me.viewer());
        return one(id, me);
    }

    @GetMapping("/api/rehearsals/{id}")
    RehearsalInfo one(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Row r = known(id, me);
        Report report = r.report() == null ? null : json.readValue(r.report(), Report.class);
        return new RehearsalInfo(
                r.id(), r.state(), r.done(), r.total(), report, r.detail(), r.generation() != rehearsing.generation());
    }

    private Row known(UUID id, SignedIn me) {
        return rehearsals.find(id, me.login()).orElseThrow(() -> Refusal.notFound("rehearsal"));
    }

    /** Stops it; what it has added up so far is kept. */
    @DeleteMapping("/api/rehearsals/{id}")
    RehearsalInfo stop(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        known(id, me);
        rehearser.stop(id);
        return one(id, me);
    }

    /** Makes the change that was rehearsed. What follows from it goes on in the background. */
    @PostMapping("/api/rehearsals/{id}/apply")
    RehearsalInfo apply(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Row r = known(id, me);
        if (!r.state().equals("done")) {
            throw Refusal.of(
                    HttpStatus.CONFLICT, "The rehearsal is " + r.state(), "Only one that is done can be applied.");
        }
        changes.apply(r, me.login());
        nudges.rulesChanged();
        return one(id, me);
    }

    /** Takes back what was applied, as long as nobody has changed the same thing since. */
    @PostMapping("/api/rehearsals/{id}/undo")
    RehearsalInfo undo(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        Row r = known(id, me);
        if (!r.state().equals("applied") || r.undo() == null) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "This cannot be undone in one step",
                    "It was not applied, or what it removed has to be added by hand.");
        }
        changes.takeBack(r, me.login());
        nudges.rulesChanged();
        return one(id, me);
    }
}
