package jandrel.store.directory;

import jandrel.core.directory.RecordKind;
import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Which version of a record there is, and whether it is in the lists. */
@Mapper
interface DirectoryVersions {
    record Version(UUID id, long version) {}

    /** Nobody else changes them until this transaction ends. */
    @Select("SELECT id, version FROM ${kind.word} WHERE id = ANY(#{ids}) ORDER BY id FOR UPDATE")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    List<Version> locked(@Param("kind") RecordKind kind, @Param("ids") UUID[] ids);

    @Update("""
            UPDATE ${kind.word} SET archived_at = CASE WHEN #{archived} THEN now() END, version = version + 1, changed_at = now()
            WHERE id = ANY(#{ids}) AND (archived_at IS NOT NULL) <> #{archived}
            """)
    int archive(@Param("kind") RecordKind kind, @Param("ids") UUID[] ids, @Param("archived") boolean archived);

    /** In how many address books these contacts stand. */
    @Select(
            "SELECT count(DISTINCT source) FROM card WHERE contact = ANY(#{contacts}) AND standing = 'TIED' AND NOT detached")
    @Options(flushCache = Options.FlushCachePolicy.TRUE, useCache = false)
    int books(@Param("contacts") UUID[] contacts);
}
