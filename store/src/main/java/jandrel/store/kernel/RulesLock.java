package jandrel.store.kernel;

import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/**
 * Keeps deciding and changing apart. A batch decides and records while it holds the rules; whoever changes directory, policy or
 * exclusions waits for the batches under way and then sees all that they recorded. So no decision rests on a rule that has gone,
 * and no change misses an item. The lock is the transaction's, and fair.
 */
@Mapper
public interface RulesLock {
    /** Nothing that a decision rests on changes until this transaction ends. */
    default void hold() {
        LockOrder.rulesShared();
        lockShared();
    }

    @Select("SELECT count(pg_advisory_xact_lock_shared(73610921))")
    long lockShared();

    /**
     * This transaction need not wait for the disk. A crash of the database may then lose the last half second of batches, each as a
     * whole with the move of its cursor, so that their sources are simply read on from where they stood before.
     */
    @Update("SET LOCAL synchronous_commit = off")
    int withoutWaiting();

    /** Nobody decides until this transaction ends. What is changed under it makes rehearsals from before grow old. */
    default void change() {
        alone();
        next();
        by(Author.now());
    }

    /** Whom the history of records names for what this transaction changes. */
    @Select("SELECT set_config('jandrel.by', #{login}, true)")
    String by(@org.apache.ibatis.annotations.Param("login") String login);

    default void alone() {
        LockOrder.rulesAlone();
        lockAlone();
    }

    @Select("SELECT count(pg_advisory_xact_lock(73610921))")
    long lockAlone();

    @Update("UPDATE rules_state SET generation = generation + 1")
    int next();

    /** Whether deciding again waits until somebody lets it go on. */
    @Select("SELECT paused FROM rules_state")
    boolean paused();

    @Update("UPDATE rules_state SET paused = #{paused}")
    int pause(@org.apache.ibatis.annotations.Param("paused") boolean paused);

    /** Grows with each change. */
    @Select("SELECT generation FROM rules_state")
    long generation();
}
