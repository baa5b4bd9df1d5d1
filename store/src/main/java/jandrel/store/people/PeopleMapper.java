package jandrel.store.people;

import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.InParts;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

@Mapper
interface PeopleMapper {
    record PersonState(UUID id, String key, String name, String team, String role, String[] addresses)
            implements FileImport.State {
        @Override
        public boolean same(FileImport.State other) {
            return other instanceof PersonState o
                    && List.of(name, team, role).equals(List.of(o.name, o.team, o.role))
                    && Arrays.equals(addresses, o.addresses);
        }
    }

    @Select("""
            SELECT p.id, p.key, p.name, p.team, p.role,
                   ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address COLLATE "C") AS addresses
            FROM person p WHERE p.key = ANY(#{keys})
            """)
    List<PersonState> people(@Param("keys") String[] keys);

    @Select("""
            SELECT pa.address AS what, p.key FROM person_address pa JOIN person p ON p.id = pa.person
            WHERE pa.address = ANY(#{addresses})
            """)
    List<FileImport.Held> addressOwners(@Param("addresses") String[] addresses);

    @Insert({
        "<script>",
        "INSERT INTO person (id, key, name, team, role) VALUES ",
        "<foreach collection='rows' item='r' separator=','>(#{r.id}, #{r.key}, #{r.name}, #{r.team}, #{r.role})</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, team = excluded.team, role = excluded.role,",
        "version = person.version + 1, changed_at = now()",
        "</script>"
    })
    int upsertPeople(@Param("rows") List<PersonState> rows);

    default void writePeople(List<PersonState> rows) {
        InParts.of(rows, this::upsertPeople);
    }

    @Delete("DELETE FROM person_address WHERE person = ANY(#{ids})")
    int clearPersonAddresses(@Param("ids") UUID[] ids);

    @Insert("INSERT INTO person_address SELECT * FROM unnest(#{texts}, #{ids})")
    int addPersonAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    record Version(UUID id, long version) {}

    /** Nobody else changes them until this transaction ends. */
    @Select("SELECT id, version FROM person WHERE id = ANY(#{ids}) ORDER BY id FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<Version> locked(@Param("ids") UUID[] ids);

    @Update("ANALYZE person, person_address")
    void analyse();
}
