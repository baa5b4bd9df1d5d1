package jandrel.store.people;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Addresses that went out by mail and let somebody set a password, once; kept as hashes alone. */
@Mapper
public interface SignInLinks {
    /** @param purpose {@code invitation} or {@code reset} */
    record Link(UUID signIn, String purpose, Instant madeAt, Instant expiresAt) {}

    /** In place of the one that was there. */
    @Insert("""
            INSERT INTO sign_in_link (hash, sign_in, purpose, made_at, expires_at)
            VALUES (#{hash}, #{l.signIn}, #{l.purpose}, #{l.madeAt}, #{l.expiresAt})
            ON CONFLICT (sign_in) DO UPDATE
            SET hash = EXCLUDED.hash, purpose = EXCLUDED.purpose, made_at = EXCLUDED.made_at, expires_at = EXCLUDED.expires_at
            """)
    int put(@Param("hash") byte[] hash, @Param("l") Link link);

    @Select(
            "SELECT sign_in, purpose, made_at, expires_at FROM sign_in_link WHERE hash = #{hash} AND expires_at > #{now}")
    Optional<Link> find(@Param("hash") byte[] hash, @Param("now") Instant now);

    @Select("SELECT sign_in, purpose, made_at, expires_at FROM sign_in_link")
    List<Link> all();

    @Select("SELECT sign_in, purpose, made_at, expires_at FROM sign_in_link WHERE sign_in = #{signIn}")
    Optional<Link> of(@Param("signIn") UUID signIn);

    /** @return 0 when somebody has used it meanwhile */
    @Delete("DELETE FROM sign_in_link WHERE hash = #{hash} AND expires_at > #{now}")
    int use(@Param("hash") byte[] hash, @Param("now") Instant now);

    @Delete("DELETE FROM sign_in_link WHERE sign_in = #{signIn}")
    int remove(@Param("signIn") UUID signIn);
}
