package jandrel.store.capture;

import jandrel.core.decide.Reopened;
import jandrel.store.kernel.Reopener;
import java.util.Collection;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Marks what a change reopens; {@link Reconsidering} works it off. */
@Component
class ReopenedMarks implements Reopener {
    private final ReopenedMapper reopened;
    private final IntakeMapper intake;

    ReopenedMarks(ReopenedMapper reopened, IntakeMapper intake) {
        this.reopened = reopened;
        this.intake = intake;
    }

    @Override
    public void mark(Collection<Reopened> changes) {
        reopened.mark(changes);
    }

    @Override
    public void keywordsAgain(UUID[] people) {
        intake.keywordsAgain(people);
    }

    @Override
    public long left() {
        return intake.toReconsider();
    }
}
