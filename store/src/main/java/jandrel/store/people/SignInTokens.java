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

/** The tokens that sign-ins hold, sessions of the console among them; kept as hashes alone. */
@Mapper
public interface SignInTokens {
    String LIST = "SELECT id, sign_in, kind, label, scopes, created_at, expires_at, last_used, place FROM token ";

    /**
     * @param kind {@code console}, {@code client}, or {@code made} for a program
     * @param scopes what it may be used for; null for whatever its sign-in may do
     * @param place the address that it was last used from; empty for never
     */
    record TokenRow(
            UUID id,
            UUID signIn,
            String kind,
            String label,
            String @Nullable [] scopes,
            Instant createdAt,
            Instant expiresAt,
            @Nullable Instant lastUsed,
            String place) {}

    @Insert("""
            INSERT INTO token (hash, id, sign_in, kind, label, scopes, created_at, expires_at, last_used, place)
            VALUES (#{hash}, #{t.id}, #{t.signIn}, #{t.kind}, #{t.label}, #{t.scopes}::text[], #{t.createdAt}, #{t.expiresAt}, #{t.lastUsed}, #{t.place})
            """)
    int add(@Param("hash") byte[] hash, @Param("t") TokenRow token);

    /**
     * Who holds a token, asked for with each call.
     *
     * @param id of the sign-in
     * @param needsCode whether they have to set up a second factor before anything else
     * @param team of the person whose it is; empty for none
     * @param overseen the people that its lists are limited to; null for no limit
     */
    record HolderRow(
            UUID token,
            String @Nullable [] scopes,
            @Nullable Instant lastUsed,
            UUID id,
            String login,
            String name,
            String role,
            @Nullable UUID person,
            boolean password,
            boolean needsCode,
            boolean temporary,
            String team,
            UUID @Nullable [] overseen) {}

    @Select("""
            SELECT t.id AS token, t.scopes, t.last_used, s.id, s.login, s.name, s.role, s.person, s.password IS NOT NULL AS password,
              s.role = 'ADMINISTRATOR' AND t.kind <> 'made' AND t.provider IS NULL AND (SELECT administrators_need_codes FROM password_rule)
                AND NOT EXISTS (SELECT FROM second_factor x WHERE x.sign_in = s.id AND x.confirmed_at IS NOT NULL) AS needs_code, s.temporary, coalesce(p.team, '') AS team,
              """ + SignIns.OVERSEEN + """

            FROM token t JOIN sign_in s ON s.id = t.sign_in LEFT JOIN person p ON p.id = s.person
            WHERE t.hash = #{hash} AND t.expires_at > #{now} AND s.ended_at IS NULL
            """)
    Optional<HolderRow> holder(@Param("hash") byte[] hash, @Param("now") Instant now);

    @Update("UPDATE token SET last_used = #{now}, place = #{place} WHERE id = #{id}")
    int used(@Param("id") UUID id, @Param("place") String place, @Param("now") Instant now);

    @Select(LIST + "WHERE sign_in = #{signIn} AND expires_at > #{now} ORDER BY coalesce(last_used, created_at) DESC")
    List<TokenRow> of(@Param("signIn") UUID signIn, @Param("now") Instant now);

    record Held(UUID signIn, int count) {}

    /** How many each sign-in holds. */
    @Select("SELECT sign_in, count(*) AS count FROM token WHERE expires_at > #{now} GROUP BY sign_in")
    List<Held> held(@Param("now") Instant now);

    /** Those that were made for programs and end soon: one's own, and for administrators those of programs. */
    @Select(LIST + """
            WHERE kind = 'made' AND expires_at > #{now} AND expires_at <= #{until} AND (sign_in = #{signIn}
                OR (#{programs} AND EXISTS (SELECT FROM sign_in s WHERE s.id = token.sign_in AND s.program)))
            ORDER BY expires_at
            """)
    List<TokenRow> ending(
            @Param("signIn") UUID signIn,
            @Param("programs") boolean programs,
            @Param("now") Instant now,
            @Param("until") Instant until);

    /** @return those of these tokens, each by its hash in hexadecimal digits, that still count */
    @Select("""
            SELECT encode(hash, 'hex') FROM token t
            WHERE hash IN (SELECT decode(h, 'hex') FROM unnest(#{hashes}::text[]) h) AND expires_at > #{now}
              AND EXISTS (SELECT FROM sign_in s WHERE s.id = t.sign_in AND s.ended_at IS NULL)
            """)
    List<String> open(@Param("hashes") String[] hashes, @Param("now") Instant now);

    @Delete("DELETE FROM token WHERE hash = #{hash}")
    int remove(@Param("hash") byte[] hash);

    @Delete("DELETE FROM token WHERE id = #{id} AND sign_in = #{signIn}")
    int removeOne(@Param("signIn") UUID signIn, @Param("id") UUID id);

    @Delete("DELETE FROM token WHERE sign_in = #{signIn}")
    int removeAll(@Param("signIn") UUID signIn);

    /** All but this one and those that were made for programs. */
    @Delete("DELETE FROM token WHERE sign_in = #{signIn} AND kind <> 'made' AND hash <> #{except}")
    int removeOthers(@Param("signIn") UUID signIn, @Param("except") byte[] except);

    @Delete("DELETE FROM token WHERE expires_at < #{now}")
    int removeExpired(@Param("now") Instant now);
}
