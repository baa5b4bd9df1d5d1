package jandrel.store.directory;

import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** What people pinned to one of two records that become one. A pin without owners holds for everybody's copies. */
@Mapper
interface PinMergeRows {
    /** What somebody pinned to the one that goes, and what of it to the other, too; beside the rest of what takes it back. */
    @Select("""
            SELECT (#{before}::jsonb || jsonb_build_object(
                'pins', (SELECT coalesce(jsonb_agg(to_jsonb(p)), '[]') FROM pin p WHERE p.record = #{goes}),
                'pinned', (SELECT coalesce(jsonb_agg(to_jsonb(s)), '[]') FROM pin s JOIN pin p ON p.item = s.item AND p.record = #{goes}
                    WHERE s.record = #{stays})))::text
            """)
    String written(@Param("stays") UUID stays, @Param("goes") UUID goes, @Param("before") String before);

    /** @return the items */
    @Select("""
            WITH old AS (DELETE FROM pin WHERE record = #{goes} RETURNING item, kind, by_name, at, owners)
            INSERT INTO pin (item, record, kind, by_name, at, owners) SELECT item, #{stays}, kind, by_name, at, owners FROM old
            ON CONFLICT (item, record) DO UPDATE SET owners = CASE WHEN '{}' IN (pin.owners, excluded.owners) THEN '{}'
                ELSE ARRAY(SELECT unnest(pin.owners || excluded.owners) EXCEPT SELECT NULL) END
            RETURNING item
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<UUID> passOn(@Param("stays") UUID stays, @Param("goes") UUID goes);

    /** What came to the one that stays with the other, and was not pinned to it anew since. */
    @Delete("""
            WITH p AS (SELECT * FROM jsonb_populate_recordset(NULL::pin, #{before}::jsonb -> 'pins')),
            s AS (SELECT * FROM jsonb_populate_recordset(NULL::pin, #{before}::jsonb -> 'pinned')),
            own AS (UPDATE pin SET owners = s.owners FROM s WHERE pin.item = s.item AND pin.record = s.record AND pin.at = s.at)
            DELETE FROM pin USING p WHERE pin.record = #{stays} AND pin.item = p.item AND pin.at = p.at
              AND p.item NOT IN (SELECT item FROM s)
            """)
    int takeBack(@Param("stays") UUID stays, @Param("before") String before);

    /** @return the items */
    @Select("""
            INSERT INTO pin SELECT (jsonb_populate_recordset(NULL::pin, #{before}::jsonb -> 'pins')).* ON CONFLICT DO NOTHING RETURNING item
            """)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    List<UUID> restore(@Param("before") String before);
}
