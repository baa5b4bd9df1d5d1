package jandrel.store;

import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

@Mapper
interface DirectoryMapper {
    record Ref(String key, UUID id) {}

    record Taken(String what, String key) {}

    /** A row as the database has it. */
    sealed interface State {
        UUID id();

        String key();

        /** Whether nothing differs from the other. */
        boolean same(State other);
    }

    record PersonState(UUID id, String key, String name, String team, String role, String[] addresses)
            implements State {
        @Override
        public boolean same(State other) {
            return other instanceof PersonState o
                    && List.of(name, team, role).equals(List.of(o.name, o.team, o.role))
                    && Arrays.equals(addresses, o.addresses);
        }
    }

    record AccountState(
            UUID id, String key, String name, @Nullable UUID owner, String[] domains) implements State {
        @Override
        public boolean same(State other) {
            return other instanceof AccountState o
                    && name.equals(o.name)
                    && Objects.equals(owner, o.owner)
                    && Arrays.equals(domains, o.domains);
        }
    }

    record ContactState(
            UUID id,
            String key,
            String name,
            String title,
            @Nullable UUID account,
            @Nullable LocalDate lastActive,
            String[] addresses)
            implements State {
        @Override
        public boolean same(State other) {
            return other instanceof ContactState o
                    && List.of(name, title).equals(List.of(o.name, o.title))
                    && Objects.equals(account, o.account)
                    && Objects.equals(lastActive, o.lastActive)
                    && Arrays.equals(addresses, o.addresses);
        }
    }

    record OpportunityState(
            UUID id,
            String key,
            String name,
            @Nullable UUID account,
            String stage,
            String state,
            @Nullable String value,
            String currency,
            @Nullable UUID owner)
            implements State {
        @Override
        public boolean same(State other) {
            return equals(other);
        }
    }

    @Select("""
            SELECT p.id, p.key, p.name, p.team, p.role,
                   ARRAY(SELECT address FROM person_address WHERE person = p.id ORDER BY address) AS addresses
            FROM person p WHERE p.key = ANY(#{keys})
            """)
    List<PersonState> people(@Param("keys") String[] keys);

    @Select("""
            SELECT a.id, a.key, a.name, a.owner,
                   ARRAY(SELECT domain FROM account_domain WHERE account = a.id ORDER BY domain) AS domains
            FROM account a WHERE a.key = ANY(#{keys})
            """)
    List<AccountState> accounts(@Param("keys") String[] keys);

    @Select("""
            SELECT c.id, c.key, c.name, c.title, c.account, c.last_active,
                   ARRAY(SELECT address FROM contact_address WHERE contact = c.id ORDER BY address) AS addresses
            FROM contact c WHERE c.key = ANY(#{keys})
            """)
    List<ContactState> contacts(@Param("keys") String[] keys);

    @Select("""
            SELECT id, key, name, account, stage, state, trim_scale(value)::text AS value, currency, owner
            FROM opportunity WHERE key = ANY(#{keys})
            """)
    List<OpportunityState> opportunities(@Param("keys") String[] keys);

    @Select("SELECT key, id FROM person WHERE key = ANY(#{keys})")
    List<Ref> personIds(@Param("keys") String[] keys);

    @Select("SELECT key, id FROM account WHERE key = ANY(#{keys})")
    List<Ref> accountIds(@Param("keys") String[] keys);

    @Select("""
            SELECT pa.address AS what, p.key FROM person_address pa JOIN person p ON p.id = pa.person
            WHERE pa.address = ANY(#{addresses})
            """)
    List<Taken> addressOwners(@Param("addresses") String[] addresses);

    @Select("""
            SELECT ad.domain AS what, a.key FROM account_domain ad JOIN account a ON a.id = ad.account
            WHERE ad.domain = ANY(#{domains})
            """)
    List<Taken> domainOwners(@Param("domains") String[] domains);

    /** The domains of accounts and the addresses of their contacts. */
    @Select("""
            SELECT domain FROM account_domain WHERE account = ANY(#{accounts})
            UNION SELECT ca.address FROM contact c JOIN contact_address ca ON ca.contact = c.id WHERE c.account = ANY(#{accounts})
            """)
    List<String> keysOfAccounts(@Param("accounts") UUID[] accounts);

    @Insert({
        "<script>",
        "INSERT INTO person (id, key, name, team, role) VALUES ",
        "<foreach collection='rows' item='r' separator=','>(#{r.id}, #{r.key}, #{r.name}, #{r.team}, #{r.role})</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, team = excluded.team, role = excluded.role",
        "</script>"
    })
    int upsertPeople(@Param("rows") List<PersonState> rows);

    @Insert({
        "<script>",
        "INSERT INTO account (id, key, name, owner) VALUES ",
        "<foreach collection='rows' item='r' separator=','>(#{r.id}, #{r.key}, #{r.name}, #{r.owner}::uuid)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, owner = excluded.owner",
        "</script>"
    })
    int upsertAccounts(@Param("rows") List<AccountState> rows);

    @Insert({
        "<script>",
        "INSERT INTO contact (id, key, name, title, account, last_active) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.title}, #{r.account}::uuid, #{r.lastActive}::date)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, title = excluded.title, account = excluded.account,",
        "last_active = excluded.last_active",
        "</script>"
    })
    int upsertContacts(@Param("rows") List<ContactState> rows);

    @Insert({
        "<script>",
        "INSERT INTO opportunity (id, key, name, account, stage, state, value, currency, owner) VALUES ",
        "<foreach collection='rows' item='r' separator=','>",
        "(#{r.id}, #{r.key}, #{r.name}, #{r.account}::uuid, #{r.stage}, #{r.state}, #{r.value}::numeric, #{r.currency},",
        "#{r.owner}::uuid)</foreach>",
        "ON CONFLICT (key) DO UPDATE SET name = excluded.name, account = excluded.account, stage = excluded.stage,",
        "state = excluded.state, value = excluded.value, currency = excluded.currency, owner = excluded.owner",
        "</script>"
    })
    int upsertOpportunities(@Param("rows") List<OpportunityState> rows);

    default void writePeople(List<PersonState> rows) {
        InParts.of(rows, this::upsertPeople);
    }

    default void writeAccounts(List<AccountState> rows) {
        InParts.of(rows, this::upsertAccounts);
    }

    default void writeContacts(List<ContactState> rows) {
        InParts.of(rows, this::upsertContacts);
    }

    default void writeOpportunities(List<OpportunityState> rows) {
        InParts.of(rows, this::upsertOpportunities);
    }

    @Delete("DELETE FROM person_address WHERE person = ANY(#{ids})")
    int clearPersonAddresses(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM contact_address WHERE contact = ANY(#{ids})")
    int clearContactAddresses(@Param("ids") UUID[] ids);

    @Delete("DELETE FROM account_domain WHERE account = ANY(#{ids})")
    int clearDomains(@Param("ids") UUID[] ids);

    @Insert("INSERT INTO person_address SELECT * FROM unnest(#{texts}, #{ids})")
    int addPersonAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    @Insert("INSERT INTO contact_address SELECT * FROM unnest(#{texts}, #{ids})")
    int addContactAddresses(@Param("texts") String[] texts, @Param("ids") UUID[] ids);

    @Insert("INSERT INTO account_domain SELECT * FROM unnest(#{texts}, #{ids})")
    int addDomains(@Param("texts") String[] texts, @Param("ids") UUID[] ids);
}
