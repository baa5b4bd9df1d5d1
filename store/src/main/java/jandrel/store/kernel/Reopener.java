package jandrel.store.kernel;

import jandrel.core.decide.Reopened;
import java.util.Collection;
import java.util.UUID;

/** Where a change of the rules says what it reopens. Called within the change's transaction, under {@link RulesLock#change}. */
public interface Reopener {
    /** What is kept is decided again, what is not kept is fetched again. */
    void mark(Collection<Reopened> reopened);

    /** Logged messages of these people get their keyword once more: it is another one now. */
    void keywordsAgain(UUID[] people);

    /** How many sightings wait to be decided again. */
    long left();
}
