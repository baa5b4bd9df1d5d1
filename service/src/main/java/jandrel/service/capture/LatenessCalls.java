package jandrel.service.capture;

import jandrel.api.DecisionApi.LatenessInfo;
import jandrel.service.kernel.Paging;
import jandrel.store.capture.Lateness;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How long mail takes to its timeline. */
@RestController
class LatenessCalls {
    private static final int MOST_DAYS = 370;
    private final Lateness lateness;

    LatenessCalls(Lateness lateness) {
        this.lateness = lateness;
    }

    /** Of what arrived in inboxes and sent folders in the last days (UTC); what was there before it was connected does not count. */
    @GetMapping("/api/lateness")
    LatenessInfo last(@RequestParam(name = "days", defaultValue = "30") int days) {
        Lateness.Measured measured = lateness.last(Paging.within("days", days, MOST_DAYS));
        return new LatenessInfo(measured.messages(), measured.median(), measured.most());
    }
}
