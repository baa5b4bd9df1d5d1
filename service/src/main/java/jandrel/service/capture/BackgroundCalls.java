package jandrel.service.capture;

import jandrel.api.RehearsalApi.Background;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Reconsidering;
import jandrel.store.kernel.Reopener;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** Re-evaluation: how much is left, and pausing it. */
@RestController
class BackgroundCalls {
    private final Reconsidering reconsidering;
    private final Reopener reopener;
    private final Positions positions;
    private final WakeUp nudges;

    BackgroundCalls(Reconsidering reconsidering, Reopener reopener, Positions positions, WakeUp nudges) {
        this.reconsidering = reconsidering;
        this.reopener = reopener;
        this.positions = positions;
        this.nudges = nudges;
    }

    /** What the changes so far left to do. */
    @GetMapping("/api/background")
    Background background() {
        return new Background(reopener.left(), positions.allToRefetch(), reconsidering.paused());
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
