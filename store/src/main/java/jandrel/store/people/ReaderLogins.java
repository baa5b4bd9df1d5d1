package jandrel.store.people;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/**
 * Logins of PostgreSQL's own by which other programs read the views of the schema {@value #SCHEMA}, each as somebody. What makes and
 * ends them are functions that a superuser has put into the database: {@code db/readers.sql}.
 */
@Mapper
public interface ReaderLogins {
    String SCHEMA = "jandrel_1";

    /** What a login can be called: nothing that would have to be quoted. */
    String LOGIN = "[a-z][a-z0-9_]{0,40}";

    /**
     * @param role by the name of {@link jandrel.core.visibility.Role}
     * @param person whom it reads as; null for nobody
     * @param personName empty for nobody
     * @param teams that its decisions and figures are limited to; null for no limit
     */
    record Reader(
            String login,
            String name,
            String role,
            @Nullable UUID person,
            String personName,
            String @Nullable [] teams,
            String addedBy,
            Instant addedAt) {}

    @Select("""
            SELECT r.login, r.name, r.role, r.person, coalesce(p.name, '') AS person_name, r.teams, r.added_by, r.added_at
            FROM reader r LEFT JOIN person p ON p.id = r.person ORDER BY r.login
            """)
    List<Reader> all();

    @Insert("""
            INSERT INTO reader (login, name, role, person, teams, added_by, added_at)
            VALUES (#{r.login}, #{r.name}, #{r.role}, #{r.person}, #{r.teams}::text[], #{r.addedBy}, #{r.addedAt}) ON CONFLICT DO NOTHING
            """)
    int add(@Param("r") Reader reader);

    @Delete("DELETE FROM reader WHERE login = #{login}")
    int remove(@Param("login") String login);

    /** Whether the functions are there and this service may call them. */
    @Select("""
            SELECT coalesce(has_schema_privilege(current_user, to_regnamespace('jandrel_logins'), 'USAGE')
                AND has_function_privilege(current_user, to_regprocedure('jandrel_logins.end_longer_than(int)'), 'EXECUTE'), false)
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    boolean isPrepared();

    /** @param verifier of its password (RFC 5803) */
    @Select("SELECT count(jandrel_logins.keep(#{login}, #{verifier}, #{seconds}))")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    int keep(@Param("login") String login, @Param("verifier") String verifier, @Param("seconds") int seconds);

    /** Ends what it is at, too. */
    @Select("SELECT count(jandrel_logins.remove(#{login}))")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    int end(@Param("login") String login);

    /** @param login as {@link #LOGIN} has it, since it cannot be a parameter */
    @Update("GRANT USAGE ON SCHEMA " + SCHEMA + " TO ${login}; GRANT SELECT ON ALL TABLES IN SCHEMA " + SCHEMA
            + " TO ${login}")
    void grant(@Param("login") String login);

    @Select("SELECT rolname FROM pg_roles WHERE rolname = ANY(#{logins})")
    List<String> existing(@Param("logins") String[] logins);

    /** @return how many sessions it ended */
    @Select("SELECT jandrel_logins.end_longer_than(#{seconds})")
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    int endLongerThan(@Param("seconds") int seconds);
}
