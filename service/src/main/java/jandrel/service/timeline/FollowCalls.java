package jandrel.service.timeline;

import jandrel.api.ActivityApi.FollowedInfo;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.RecordRef;
import jandrel.store.directory.RecordRefs;
import jandrel.store.timeline.Follows;
import java.util.List;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The records that the asker keeps in sight. */
@RestController
class FollowCalls {
    private static final int MOST = 500;
    private final Follows follows;
    private final RecordRefs records;

    FollowCalls(Follows follows, RecordRefs records) {
        this.follows = follows;
        this.records = records;
    }

    @GetMapping("/api/followed")
    List<FollowedInfo> all(@AuthenticationPrincipal SignedIn me) {
        return follows.of(me.id()).stream()
                .map(f -> new FollowedInfo(f.id(), f.kind(), f.name()))
                .toList();
    }

    @PutMapping("/api/followed/{record}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void follow(@PathVariable("record") UUID record, @AuthenticationPrincipal SignedIn me) {
        RecordRef target = records.find(record).orElseThrow(() -> Refusal.notFound("record"));
        if (follows.of(me.id()).size() >= MOST) {
            throw Refusal.bad("You follow " + MOST + " records", "Let one go first.");
        }
        follows.add(me.id(), target);
    }

    @DeleteMapping("/api/followed/{record}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void letGo(@PathVariable("record") UUID record, @AuthenticationPrincipal SignedIn me) {
        follows.remove(me.id(), record);
    }
}
