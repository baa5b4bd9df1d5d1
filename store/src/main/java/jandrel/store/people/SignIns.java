package jandrel.store.people;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Who may sign in. Passwords are kept as hashes alone. */
@Mapper
public interface SignIns {
    /** The people of the teams that a sign-in is limited to, and its own person. */
    String OVERSEEN =
            "CASE WHEN s.teams IS NOT NULL THEN ARRAY(SELECT o.id FROM person o WHERE o.team = ANY(s.teams) OR o.id = s.person) END AS overseen";

    String SELECT = "SELECT s.*, coalesce(p.team, '') AS team, " + OVERSEEN
            + " FROM sign_in s LEFT JOIN person p ON p.id = s.person ";

    /**
     * @param password its hash; null until its person has set one
     * @param role by the name of {@link jandrel.core.visibility.Role}
     * @param temporary whether the password is one that somebody else gave
     * @param program whether it is no person's, and has tokens alone
     * @param endedAt since when it opens nothing; null while it does
     * @param teams that its lists are limited to; null for no limit
     * @param team of the person whose it is; empty for none
     * @param overseen the people of {@code teams}; null for no limit
     */
    record SignIn(
            UUID id,
            String login,
            String name,
            @Nullable String password,
            String role,
            @Nullable UUID person,
            boolean temporary,
            boolean program,
            Instant addedAt,
            @Nullable Instant lastSeen,
            @Nullable Instant endedAt,
            String @Nullable [] teams,
            String team,
            UUID @Nullable [] overseen) {
        public static SignIn fresh(String login, String name, String role, @Nullable UUID person, Instant now) {
            return new SignIn(
                    UUID.randomUUID(), login, name, null, role, person, false, false, now, null, null, null, "", null);
        }

        public SignIn withPassword(String hash, boolean isTemporary) {
            return new SignIn(
                    id,
                    login,
                    name,
                    hash,
                    role,
                    person,
                    isTemporary,
                    program,
                    addedAt,
                    lastSeen,
                    endedAt,
                    teams,
                    team,
                    overseen);
        }

        public SignIn asProgram() {
            return new SignIn(
                    id, login, name, null, role, null, false, true, addedAt, lastSeen, endedAt, teams, team, overseen);
        }
    }

    @Select("SELECT count(*) FROM sign_in")
    long count();

    @Select(SELECT + "WHERE s.login = lower(#{login})")
    Optional<SignIn> find(@Param("login") String login);

    @Select(SELECT + "WHERE s.id = #{id}")
    Optional<SignIn> one(@Param("id") UUID id);

    @Select(SELECT + "WHERE s.person = #{person}")
    Optional<SignIn> ofPerson(@Param("person") UUID person);

    @Select(SELECT + "ORDER BY s.login")
    List<SignIn> all();

    @Insert("""
            INSERT INTO sign_in (id, login, name, password, role, person, temporary, program, added_at)
            VALUES (#{s.id}, lower(#{s.login}), #{s.name}, #{s.password}, #{s.role}, #{s.person}, #{s.temporary}, #{s.program}, #{s.addedAt})
            ON CONFLICT (login) DO NOTHING
            """)
    int add(@Param("s") SignIn signIn);

    /** Nobody else adds one until this transaction ends. */
    @Update("LOCK TABLE sign_in IN SHARE ROW EXCLUSIVE MODE")
    void alone();

    /** @param hash the person's own choice */
    @Update("UPDATE sign_in SET password = #{hash}, temporary = false WHERE id = #{id} AND ended_at IS NULL")
    int password(@Param("id") UUID id, @Param("hash") String hash);

    /** Takes away a password that somebody else gave. */
    @Update("UPDATE sign_in SET password = NULL, temporary = false WHERE id = #{id} AND temporary")
    int noTemporary(@Param("id") UUID id);

    /** The same password, hashed as it is done today; unless it has become another meanwhile. */
    @Update("UPDATE sign_in SET password = #{hash} WHERE id = #{id} AND password = #{before}")
    int hashedAnew(@Param("id") UUID id, @Param("before") String before, @Param("hash") String hash);

    /** @param teams that its lists are limited to; null for no limit */
    @Update("UPDATE sign_in SET role = #{role}, teams = #{teams}::text[] WHERE id = #{id}")
    int role(@Param("id") UUID id, @Param("role") String role, @Param("teams") String @Nullable [] teams);

    @Update("UPDATE sign_in SET last_seen = #{now} WHERE id = #{id}")
    int seen(@Param("id") UUID id, @Param("now") Instant now);

    /** Opens nothing from now on, and no password of it does any more. */
    @Update(
            "UPDATE sign_in SET ended_at = #{now}, password = NULL, temporary = false WHERE id = #{id} AND ended_at IS NULL")
    int end(@Param("id") UUID id, @Param("now") Instant now);

    /** Of somebody who is back: as one that was just added. */
    @Update(
            "UPDATE sign_in SET ended_at = NULL, password = NULL, added_at = #{now}, role = #{role}, teams = NULL WHERE id = #{id}")
    int again(@Param("id") UUID id, @Param("role") String role, @Param("now") Instant now);

    /** How many others may sign in as administrators with a password of their own. */
    @Select("""
            SELECT count(*) FROM sign_in WHERE role = 'ADMINISTRATOR' AND NOT program AND ended_at IS NULL AND password IS NOT NULL
              AND NOT temporary AND id <> #{except}
            """)
    long otherAdministrators(@Param("except") UUID except);
}
