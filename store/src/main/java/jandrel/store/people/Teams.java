package jandrel.store.people;

import jandrel.core.visibility.Viewer;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;

/** Teams that were made by a directory elsewhere; all others are simply what people say they are in. */
@Mapper
public interface Teams {
    /** The same id that stands for the team among readers. */
    static UUID id(String name) {
        return Objects.requireNonNull(Viewer.team(name));
    }

    @Select("SELECT name FROM team ORDER BY name")
    List<String> made();

    @Insert("INSERT INTO team VALUES (#{name}) ON CONFLICT DO NOTHING")
    int make(@Param("name") String name);

    @Delete("DELETE FROM team WHERE name = #{name}")
    int unmake(@Param("name") String name);
}
