package jandrel.store.kernel;

import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * From where an export of what changed goes on. What changed is told by the transaction that wrote a row (PostgreSQL's xmin): nothing is
 * kept for it, and a change that ran while an export was under way comes with the next one.
 */
@Component
public class ChangeCursor {
    /** Transactions after which a cursor is too old: their numbers come round, and say nothing any more. */
    public static final long OLDEST = 1_000_000_000L;

    /** Before the first in order. */
    public static final UUID FIRST = new UUID(0, 0);

    /**
     * Whether a row x was written by that transaction or a later one; 0 for any. Rows know the lower half of its number alone; one that is
     * older than two billion transactions looks new, and comes once more.
     */
    public static final String SINCE =
            "(#{since} = 0 OR ((x.xmin::text::bigint - #{since}) & 4294967295) < 2147483648)";

    private final Mapped mapper;

    @Mapper
    interface Mapped {
        /** What is yet to be committed has no lower number than this. */
        @Select("SELECT pg_snapshot_xmin(pg_current_snapshot())::text::bigint")
        @Options(flushCache = Options.FlushCachePolicy.TRUE)
        long cursor();
    }

    ChangeCursor(Mapped mapper) {
        this.mapper = mapper;
    }

    /** Greater than 0. */
    @Transactional(readOnly = true)
    public long current() {
        return mapper.cursor();
    }
}
