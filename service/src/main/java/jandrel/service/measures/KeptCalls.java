package jandrel.service.measures;

import jandrel.api.MeasureApi.KeptSelection;
import jandrel.api.MeasureApi.NewKeptSelection;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.Json;
import jandrel.store.measures.KeptFigures;
import jandrel.store.measures.KeptFigures.Kept;
import jandrel.store.people.People;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Selections of figures that somebody keeps by name, each for themselves. */
@RestController
class KeptCalls {
    private static final int MOST = 100;
    private static final int LONGEST = 80;
    private final KeptFigures kept;
    private final People people;
    private final OutgoingMail post;
    private final Clock clock;

    KeptCalls(KeptFigures kept, People people, OutgoingMail post, Clock clock) {
        this.kept = kept;
        this.people = people;
        this.post = post;
        this.clock = clock;
    }

    @GetMapping("/api/kept-figures")
    List<KeptSelection> mine(@AuthenticationPrincipal SignedIn me) {
        return kept.of(me.id()).stream().map(KeptCalls::shown).toList();
    }

    @PostMapping("/api/kept-figures")
    @Transactional
    List<KeptSelection> keep(@RequestBody NewKeptSelection wanted, @AuthenticationPrincipal SignedIn me) {
        String name = wanted.name().strip();
        if (name.isEmpty() || name.length() > LONGEST) {
            throw Refusal.bad("“" + wanted.name() + "” is no name", "A name has 1 to " + LONGEST + " characters.");
        }
        List<Kept> now = kept.of(me.id());
        if (now.size() >= MOST && now.stream().noneMatch(k -> k.name().equals(name))) {
            throw Refusal.bad("You keep " + MOST + " selections already", "Remove one that you need no more.");
        }
        Instant at = clock.instant();
        Map<String, String> asked = new TreeMap<>(wanted.query());
        asked.values().removeIf(String::isBlank);
        MeasureQuery query = MeasureQuery.of(asked);
        MeasureQuery.Asked figures = query.of(wanted.measure(), at);
        if (wanted.weekly() && people.mailTo(me.person()).isEmpty()) {
            throw Refusal.bad(
                    "There is no address to send it to",
                    "Your sign-in stands for nobody of the company with an address; keep it without mail.");
        }
        if (wanted.weekly() && !post.isThere()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "No mail goes out from here",
                    "An administrator has to set a mail server for it (docs/settings.md).");
        }
        kept.keep(new Kept(
                UUID.randomUUID(),
                me.id(),
                name,
                figures.measure().word(),
                Json.write(asked),
                figures.span().zone().getId(),
                wanted.weekly(),
                MondayMornings.last(at, figures.span().zone())));
        return mine(me);
    }

    @DeleteMapping("/api/kept-figures/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        if (kept.remove(id, me.id()) == 0) {
            throw Refusal.notFound("kept selection");
        }
    }

    @SuppressWarnings("unchecked")
    static Map<String, String> query(Kept k) {
        return (Map<String, String>) Json.any(k.query());
    }

    private static KeptSelection shown(Kept k) {
        return new KeptSelection(k.id(), k.name(), k.measure(), query(k), k.weekly());
    }
}
