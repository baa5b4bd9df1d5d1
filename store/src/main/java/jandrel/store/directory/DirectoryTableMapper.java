package jandrel.store.directory;

import jandrel.store.kernel.Json;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** Tables of the directory. What stands in the statements as text is {@link DirectoryTables}' own; what people write is a parameter. */
@Mapper
interface DirectoryTableMapper {
    /** @param cells by column (JSON) */
    record Line(UUID id, long version, boolean archived, String[] byHand, String cells) {}

    /** @param sql that the value stands after; the whole condition where there is none */
    record Condition(String sql, String value) {}

    String WHERE = """
            FROM ${from} <where>
                <if test='find != ""'>(r.name ILIKE #{pattern} OR r.key ILIKE #{pattern} ${find})</if>
                <foreach collection='conditions' item='c'> AND ${c.sql} <if test='c.value != ""'>#{c.value}</if></foreach>
            </where>
            """;

    @Select("<script>SELECT count(*) " + WHERE + "</script>")
    long count(
            @Param("from") String from,
            @Param("pattern") String pattern,
            @Param("find") String find,
            @Param("conditions") List<Condition> conditions);

    /** What a row shows is looked up for the rows of the page alone. */
    @Select("<script>WITH page AS MATERIALIZED (SELECT r.id, row_number() OVER (ORDER BY ${order}) AS n " + WHERE
            + " ORDER BY n LIMIT #{limit} OFFSET #{offset})"
            + " SELECT r.id, r.version, ${columns} FROM ${from} JOIN page ON page.id = r.id ORDER BY page.n</script>")
    List<Line> page(
            @Param("from") String from,
            @Param("columns") String columns,
            @Param("pattern") String pattern,
            @Param("find") String find,
            @Param("conditions") List<Condition> conditions,
            @Param("order") String order,
            @Param("offset") int offset,
            @Param("limit") int limit);

    @Select("SELECT r.id, r.version, ${columns} FROM ${from} WHERE r.id = ANY(#{ids}) ORDER BY r.id")
    List<Line> some(@Param("from") String from, @Param("columns") String columns, @Param("ids") UUID[] ids);

    @SuppressWarnings("unchecked")
    static Map<String, @Nullable String> cells(String json) {
        return (Map<String, @Nullable String>) Json.any(json);
    }
}
