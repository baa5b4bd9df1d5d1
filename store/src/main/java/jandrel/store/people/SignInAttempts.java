package jandrel.store.people;

import java.time.Instant;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Wrong passwords, and from where people have signed in before. */
@Mapper
public interface SignInAttempts {

    /**
     * Counts an attempt before its password is looked at, so that many at once are no more than one after the other. From the fifth
     * wrong one on the login is shut for a while that doubles each time, up to a minute. After an hour of quiet it is forgotten.
     *
     * @param bucket of the login
     * @return 0 when it is shut
     */
    @Insert("""
            INSERT INTO wrong_password AS w (bucket, failures, last_at) VALUES (#{bucket}, 1, #{now})
            ON CONFLICT (bucket) DO UPDATE SET last_at = #{now},
                failures = CASE WHEN w.last_at < #{now}::timestamptz - interval '1 hour' THEN 1 ELSE w.failures + 1 END,
                shut_until = CASE WHEN w.failures >= 4 AND w.last_at >= #{now}::timestamptz - interval '1 hour'
                    THEN #{now}::timestamptz + least(interval '1 minute', interval '15 seconds' * power(2, least(w.failures - 4, 4))) END
            WHERE w.shut_until IS NULL OR w.shut_until <= #{now}
            """)
    int attempt(@Param("bucket") int bucket, @Param("now") Instant now);

    @Select("SELECT shut_until FROM wrong_password WHERE bucket = #{bucket}")
    @Nullable
    Instant shutUntil(@Param("bucket") int bucket);

    @Delete("DELETE FROM wrong_password WHERE bucket = #{bucket}")
    int succeeded(@Param("bucket") int bucket);

    @Delete("DELETE FROM wrong_password WHERE last_at < #{before}")
    int forget(@Param("before") Instant before);

    /** After five wrong passwords a device is as good as unknown.
     *
     * @return 0 when it is none of that login’s */
    @Update("""
            UPDATE known_device d SET failures = failures + 1 FROM sign_in s
            WHERE d.hash = #{hash} AND s.id = d.sign_in AND s.login = lower(#{login}) AND failures < 5
            """)
    int fromDevice(@Param("hash") byte[] hash, @Param("login") String login);

    @Update("UPDATE known_device SET failures = 0, last_used = #{now} WHERE hash = #{hash}")
    int deviceSucceeded(@Param("hash") byte[] hash, @Param("now") Instant now);

    @Insert("INSERT INTO known_device (hash, sign_in, last_used) VALUES (#{hash}, #{signIn}, #{now})")
    int addDevice(@Param("hash") byte[] hash, @Param("signIn") UUID signIn, @Param("now") Instant now);

    @Delete("DELETE FROM known_device WHERE sign_in = #{signIn}")
    int removeDevices(@Param("signIn") UUID signIn);

    /** Each has so many devices at most. */
    @Delete("""
            DELETE FROM known_device WHERE last_used < #{before} OR hash IN (
                SELECT hash FROM (SELECT hash, row_number() OVER (PARTITION BY sign_in ORDER BY last_used DESC) AS n FROM known_device) d
                WHERE n > #{most})
            """)
    int forgetDevices(@Param("before") Instant before, @Param("most") int most);
}
