package jandrel.store;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** The people of the company. */
@Mapper
public interface People {
    record Person(
            UUID id,
            String key,
            String name,
            String team,
            String role,
            @Nullable LocalDate coverUntil,
            String[] addresses) {}

    @Select("""
            SELECT p.*, ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses
            FROM person p ORDER BY p.name
            """)
    List<Person> all();

    @Select("""
            SELECT p.*, ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses
            FROM person p WHERE p.key = #{key} OR p.id = (SELECT person FROM person_address WHERE address = lower(#{key}))
            """)
    Optional<Person> find(@Param("key") String keyOrAddress);

    @Select("""
            SELECT p.*, ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses
            FROM person p WHERE p.id = #{id}
            """)
    Optional<Person> one(@Param("id") UUID id);
}
