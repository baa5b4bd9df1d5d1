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
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Who may sign in, and the tokens they hold. Passwords and tokens are kept as hashes alone. */
@Mapper
public interface SignIns {
    String SELECT = "SELECT s.*, coalesce(p.team, '') AS team FROM sign_in s LEFT JOIN person p ON p.id = s.person ";

    /**
     * @param role by the name of {@link jandrel.core.visibility.Role}
     * @param team of the person whose it is; empty for none
     */
    record SignIn(
            UUID id,
            String login,
            String name,
            String password,
            String role,
            @Nullable UUID person,
            int failures,
            @Nullable Instant lockedUntil,
            String team) {}

    @Select("SELECT count(*) FROM sign_in")
    long count();

    @Select(SELECT + "WHERE s.login = lower(#{login})")
    Optional<SignIn> find(@Param("login") String login);

    @Select(SELECT + "WHERE s.id = #{id}")
    Optional<SignIn> one(@Param("id") UUID id);

    @Select(SELECT + "ORDER BY s.login")
    List<SignIn> all();

    @Insert("""
            INSERT INTO sign_in (id, login, name, password, role, person)
            VALUES (#{s.id}, lower(#{s.login}), #{s.name}, #{s.password}, #{s.role}, #{s.person})
            ON CONFLICT (login) DO NOTHING
            """)
    int add(@Param("s") SignIn signIn);

    /** Nobody else adds one until this transaction ends. */
    @Update("LOCK TABLE sign_in IN SHARE ROW EXCLUSIVE MODE")
    void alone();

    @Select("SELECT EXISTS (SELECT FROM sign_in WHERE person = #{person})")
    boolean hasOne(@Param("person") UUID person);

    /**
     * Counts an attempt before its password is looked at, so that many at once are no more than one after the other. From the fifth
     * wrong one on the sign-in is shut for a while that doubles each time, up to an hour.
     *
     * @return 0 when it is shut
     */
    @Update("""
            UPDATE sign_in SET failures = failures + 1, locked_until = CASE WHEN failures >= 4
                THEN #{now}::timestamptz + least(interval '1 hour', interval '15 seconds' * power(2, least(failures - 4, 10)))
                END
            WHERE id = #{id} AND (locked_until IS NULL OR locked_until <= #{now})
            """)
    int attempt(@Param("id") UUID id, @Param("now") Instant now);

    @Update("UPDATE sign_in SET failures = 0, locked_until = NULL WHERE id = #{id} AND failures > 0")
    int succeeded(@Param("id") UUID id);

    @Insert("""
            INSERT INTO token (hash, sign_in, label, expires_at) VALUES (#{hash}, #{signIn}, #{label}, #{expires})
            """)
    int addToken(
            @Param("hash") byte[] hash,
            @Param("signIn") UUID signIn,
            @Param("label") String label,
            @Param("expires") Instant expires);

    @Select(SELECT + "JOIN token t ON t.sign_in = s.id WHERE t.hash = #{hash} AND t.expires_at > #{now}")
    Optional<SignIn> byToken(@Param("hash") byte[] hash, @Param("now") Instant now);

    /** @return those of these tokens, each by its hash in hexadecimal digits, that still count */
    @Select("""
            SELECT encode(hash, 'hex') FROM token
            WHERE hash IN (SELECT decode(h, 'hex') FROM unnest(#{hashes}::text[]) h) AND expires_at > #{now}
            """)
    List<String> open(@Param("hashes") String[] hashes, @Param("now") Instant now);

    @Delete("DELETE FROM token WHERE hash = #{hash}")
    int removeToken(@Param("hash") byte[] hash);

    @Delete("DELETE FROM token WHERE expires_at < #{now}")
    int removeExpired(@Param("now") Instant now);
}
