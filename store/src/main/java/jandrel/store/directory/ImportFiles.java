package jandrel.store.directory;

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

/** Files that somebody looks at before they are taken, and how their columns were matched before. */
@Mapper
public interface ImportFiles {
    /**
     * @param mapping of each of its columns the name of ours; empty for none
     * @param count of its lines
     * @param state {@code looked-at}, {@code running}, {@code done} or {@code failed}
     * @param says what came of it
     */
    record ImportFile(
            UUID id,
            UUID signIn,
            String kind,
            String name,
            String[] heading,
            int count,
            String[] mapping,
            String state,
            String says,
            Instant at) {}

    String COLUMNS = "SELECT id, sign_in, kind, name, heading, count, mapping, state, says, at FROM import_file";

    @Insert("""
            INSERT INTO import_file (id, sign_in, kind, name, heading, lines, count, mapping, at)
            VALUES (#{f.id}, #{f.signIn}, #{f.kind}, #{f.name}, #{f.heading}, #{lines}, #{f.count}, #{f.mapping}, #{f.at})
            """)
    int add(@Param("f") ImportFile file, @Param("lines") byte[] packed);

    @Select(COLUMNS + " WHERE id = #{id} AND sign_in = #{signIn}")
    Optional<ImportFile> find(@Param("id") UUID id, @Param("signIn") UUID signIn);

    record Packed(byte[] lines) {}

    @Select("SELECT lines FROM import_file WHERE id = #{id}")
    Packed lines(@Param("id") UUID id);

    @Update("UPDATE import_file SET mapping = #{mapping} WHERE id = #{id} AND state = 'looked-at'")
    int map(@Param("id") UUID id, @Param("mapping") String[] mapping);

    /** @return 1 for whoever is to take it */
    @Update(
            "UPDATE import_file SET state = 'running', at = #{now} WHERE id = #{id} AND state IN ('looked-at', 'failed')")
    int begin(@Param("id") UUID id, @Param("now") Instant now);

    @Update("UPDATE import_file SET state = #{state}, says = #{says}, at = #{now} WHERE id = #{id}")
    int ended(
            @Param("id") UUID id, @Param("state") String state, @Param("says") String says, @Param("now") Instant now);

    /** Whoever was taking it has gone, and with them all that they had written. */
    @Update("UPDATE import_file SET state = 'failed', says = #{says} WHERE state = 'running' AND at < #{before}")
    int abandoned(@Param("before") Instant before, @Param("says") String says);

    @Delete("DELETE FROM import_file WHERE id = #{id} AND sign_in = #{signIn} AND state <> 'running'")
    int remove(@Param("id") UUID id, @Param("signIn") UUID signIn);

    @Delete("DELETE FROM import_file WHERE at < #{before}")
    int forget(@Param("before") Instant before);

    /** @return columns with tabs between, as they were last matched for this heading */
    @Select("SELECT columns FROM import_mapping WHERE kind = #{kind} AND header = #{heading}")
    Optional<String> mapped(@Param("kind") String kind, @Param("heading") String heading);

    @Insert("""
            INSERT INTO import_mapping VALUES (#{kind}, #{heading}, #{columns}, now())
            ON CONFLICT (kind, header) DO UPDATE SET columns = excluded.columns, used_at = excluded.used_at
            """)
    int remember(@Param("kind") String kind, @Param("heading") String heading, @Param("columns") String columns);

    record Named(String named, String key) {}

    /** People by address and by name, in lower case, where that names one alone. */
    @Select("""
            SELECT named, min(key) AS key FROM (
                SELECT a.address AS named, p.key FROM person_address a JOIN person p ON p.id = a.person WHERE a.address = ANY(#{named})
                UNION SELECT lower(name), key FROM person WHERE lower(name) = ANY(#{named})) n
            GROUP BY named HAVING count(DISTINCT key) = 1
            """)
    List<Named> people(@Param("named") String[] named);

    /** Accounts by domain and by name, in lower case, where that names one alone. */
    @Select("""
            SELECT named, min(key) AS key FROM (
                SELECT substr(d.domain, 2) AS named, a.key FROM account_domain d JOIN account a ON a.id = d.account
                    WHERE d.domain = ANY(SELECT '@' || n FROM unnest(#{named}::text[]) n)
                UNION SELECT lower(name), key FROM account WHERE lower(name) = ANY(#{named})) n
            GROUP BY named HAVING count(DISTINCT key) = 1
            """)
    List<Named> accounts(@Param("named") String[] named);
}
