package jandrel.store.kernel;

import java.time.LocalDate;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Update;

/** How much of something may happen in a day, counted before it does. */
@Mapper
public interface Quotas {
    /** Letters to guests of somebody's meetings, by the meetings' owner. */
    String GUEST_LETTERS = "guest letters";

    /** Invitations and ways to set a new password, by the sign-in that they are for. */
    String SIGN_IN_LETTERS = "sign-in letters";

    /** Reminders to sign in to a mailbox or calendar, by the person. */
    String REMINDERS = "reminders";

    /**
     * Counts one.
     *
     * @param day in UTC
     * @return 0 when the day has had its most
     */
    @Insert("""
            INSERT INTO quota AS q (what, whose, day, n) SELECT #{what}, #{whose}, #{day}, 1 WHERE #{most} > 0
            ON CONFLICT (what, whose) DO UPDATE SET day = excluded.day, n = CASE WHEN q.day = excluded.day THEN q.n + 1 ELSE 1 END
            WHERE q.day <> excluded.day OR q.n < #{most}
            """)
    int take(
            @Param("what") String what,
            @Param("whose") UUID whose,
            @Param("day") LocalDate day,
            @Param("most") int most);

    /** One that was counted did not happen. */
    @Update("UPDATE quota SET n = n - 1 WHERE what = #{what} AND whose = #{whose} AND day = #{day} AND n > 0")
    int giveBack(@Param("what") String what, @Param("whose") UUID whose, @Param("day") LocalDate day);

    @Delete("DELETE FROM quota WHERE day < #{day}")
    int forget(@Param("day") LocalDate day);
}
