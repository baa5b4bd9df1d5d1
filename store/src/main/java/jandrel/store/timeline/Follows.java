package jandrel.store.timeline;

import jandrel.store.directory.RecordRef;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** The records that somebody wants to keep in sight. A matter of their own: it changes nothing of what is logged or read. */
@Mapper
public interface Follows {
    record Followed(UUID id, String kind, String name) {}

    @Insert("""
            INSERT INTO followed (sign_in, record, kind) VALUES (#{signIn}, #{t.id}, #{t.kind}) ON CONFLICT DO NOTHING
            """)
    int add(@Param("signIn") UUID signIn, @Param("t") RecordRef record);

    @Delete("DELETE FROM followed WHERE sign_in = #{signIn} AND record = #{record}")
    int remove(@Param("signIn") UUID signIn, @Param("record") UUID record);

    /** By name; records that have gone are not among them. */
    @Select("""
            SELECT f.record AS id, f.kind, coalesce(c.name, d.name, a.name, o.name) AS name FROM followed f
            LEFT JOIN contact c ON c.id = f.record LEFT JOIN lead d ON d.id = f.record LEFT JOIN account a ON a.id = f.record
            LEFT JOIN opportunity o ON o.id = f.record
            WHERE f.sign_in = #{signIn} AND coalesce(c.name, d.name, a.name, o.name) IS NOT NULL ORDER BY 3, 1
            """)
    List<Followed> of(@Param("signIn") UUID signIn);
}
