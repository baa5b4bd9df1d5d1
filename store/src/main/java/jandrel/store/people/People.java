package jandrel.store.people;

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
    /** @param addresses those first that are connected accounts: others know the person by them */
    record Person(
            UUID id,
            String key,
            String name,
            String team,
            String role,
            @Nullable LocalDate coverUntil,
            String[] addresses) {
        /** The address that others are asked and told from; empty for none. */
        public String writesAs() {
            return addresses.length == 0 ? "" : addresses[0];
        }
    }

    /** Where mail to a person goes; empty for nowhere. */
    default String mailTo(@Nullable UUID person) {
        return person == null ? "" : one(person).map(Person::writesAs).orElse("");
    }

    String ADDRESSES = """
            ARRAY(SELECT a.address FROM person_address a WHERE a.person = p.id ORDER BY NOT EXISTS
                (SELECT FROM connection c WHERE c.person = p.id AND lower(c.account) = a.address AND c.state <> 'disconnected'),
                a.address) AS addresses
            """;

    @Select("""
            SELECT p.*, """ + ADDRESSES + """
            FROM person p ORDER BY p.name
            """)
    List<Person> all();

    @Select("""
            SELECT p.*, """ + ADDRESSES + """
            FROM person p WHERE p.key = #{key} OR p.id = (SELECT person FROM person_address WHERE address = lower(#{key}))
            """)
    Optional<Person> find(@Param("key") String keyOrAddress);

    /** Whose address it is; never anybody's whose key looks like it. */
    @Select("""
            SELECT p.*, """ + ADDRESSES + """
            FROM person p WHERE p.id = (SELECT person FROM person_address WHERE address = lower(#{address}))
            """)
    Optional<Person> at(@Param("address") String address);

    @Select("""
            SELECT p.*, """ + ADDRESSES + """
            FROM person p WHERE p.id = #{id}
            """)
    Optional<Person> one(@Param("id") UUID id);
}
