package jandrel.store.directory;

import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Finds records that others refer to. */
@Mapper
public interface RecordRefs {
    String ALL = """
            SELECT * FROM (
                SELECT 'contact' AS kind, id, key, name FROM contact UNION ALL SELECT 'lead', id, key, name FROM lead
                UNION ALL SELECT 'account', id, key, name FROM account
                UNION ALL SELECT 'opportunity', id, key, name FROM opportunity) r
            """;

    @Select(ALL + " WHERE id = #{record}")
    Optional<RecordRef> find(@Param("record") UUID record);

    /** What a record has become a part of, if it has. */
    @Select("""
            SELECT contact FROM merged_contact WHERE was = #{record} UNION ALL SELECT account FROM merged_account WHERE was = #{record}
            UNION ALL SELECT lead FROM merged_lead WHERE was = #{record}
            """)
    Optional<UUID> mergedInto(@Param("record") UUID record);

    @Select(ALL + " WHERE id = ANY(#{records})")
    List<RecordRef> all(@Param("records") UUID[] records);

    @Select(ALL + " WHERE kind = #{kind} AND key = ANY(#{keys})")
    List<RecordRef> byKeys(@Param("kind") String kind, @Param("keys") String[] keys);

    @Select(ALL + " WHERE kind = #{kind} AND key = #{key}")
    Optional<RecordRef> byKey(@Param("kind") String kind, @Param("key") String key);
}
