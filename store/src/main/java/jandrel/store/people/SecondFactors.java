package jandrel.store.people;

import java.time.Instant;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Codes that people give besides their password (RFC 6238), and those that help once when a phone is lost. */
@Mapper
public interface SecondFactors {
    /**
     * @param secret encrypted
     * @param confirmedAt null until a first code has shown that it is set up
     */
    record SecondFactor(
            UUID signIn, byte[] secret, @Nullable Instant confirmedAt) {}

    @Select("SELECT sign_in, secret, confirmed_at FROM second_factor WHERE sign_in = #{signIn}")
    Optional<SecondFactor> of(@Param("signIn") UUID signIn);

    /** @return 0 when one is in use */
    @Insert("""
            INSERT INTO second_factor AS s (sign_in, secret) VALUES (#{signIn}, #{secret})
            ON CONFLICT (sign_in) DO UPDATE SET secret = EXCLUDED.secret, last_step = 0 WHERE s.confirmed_at IS NULL
            """)
    int begin(@Param("signIn") UUID signIn, @Param("secret") byte[] secret);

    @Update("UPDATE second_factor SET confirmed_at = #{now} WHERE sign_in = #{signIn} AND confirmed_at IS NULL")
    int confirm(@Param("signIn") UUID signIn, @Param("now") Instant now);

    /** @return 0 when this half minute's code, or a later one, was taken already */
    @Update("UPDATE second_factor SET last_step = #{step} WHERE sign_in = #{signIn} AND last_step < #{step}")
    int take(@Param("signIn") UUID signIn, @Param("step") long step);

    /** Its recovery codes go with it. */
    @Delete("DELETE FROM second_factor WHERE sign_in = #{signIn}")
    int remove(@Param("signIn") UUID signIn);

    @Insert("INSERT INTO recovery_code (sign_in, hash) VALUES (#{signIn}, #{hash})")
    int addCode(@Param("signIn") UUID signIn, @Param("hash") byte[] hash);

    /** @return 0 when there is no such code, or it was used */
    @Delete("DELETE FROM recovery_code WHERE sign_in = #{signIn} AND hash = #{hash}")
    int useCode(@Param("signIn") UUID signIn, @Param("hash") byte[] hash);

    @Select("SELECT count(*) FROM recovery_code WHERE sign_in = #{signIn}")
    int codes(@Param("signIn") UUID signIn);
}
