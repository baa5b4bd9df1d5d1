package jandrel.store.people;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;

/** Where people of the company sign in elsewhere, and whose sign-in each of them opens. */
@Mapper
public interface IdentityProviders {
    /**
     * @param secret the client's, encrypted; null where the provider asks for none
     * @param groupsClaim the claim that names somebody's groups
     * @param otherwise the role of somebody whose groups have none, by its name; {@code NONE} for no way in
     */
    record IdentityProvider(
            UUID id,
            String name,
            String issuer,
            String clientId,
            byte @Nullable [] secret,
            String groupsClaim,
            String otherwise,
            Instant addedAt) {}

    /** @param role by the name of {@link jandrel.core.visibility.Role} */
    record GroupRole(String groupName, String role) {}

    /** @param subject what the provider calls its person by, for ever (OpenID Connect Core 1.0, §2) */
    record Identity(UUID provider, String subject, UUID signIn) {}

    @Select("SELECT * FROM identity_provider ORDER BY name")
    List<IdentityProvider> all();

    @Select("SELECT * FROM identity_provider WHERE id = #{id}")
    Optional<IdentityProvider> one(@Param("id") UUID id);

    @Insert("""
            INSERT INTO identity_provider (id, name, issuer, client_id, secret, groups_claim, otherwise, added_at)
            VALUES (#{p.id}, #{p.name}, #{p.issuer}, #{p.clientId}, #{p.secret}, #{p.groupsClaim}, #{p.otherwise}, #{p.addedAt})
            ON CONFLICT DO NOTHING
            """)
    int add(@Param("p") IdentityProvider provider);

    /** Issuer and client stay: people are known by what this one calls them. */
    @Update("""
            UPDATE identity_provider SET name = #{p.name}, secret = #{p.secret}, groups_claim = #{p.groupsClaim}, otherwise = #{p.otherwise}
            WHERE id = #{p.id} AND NOT EXISTS (SELECT FROM identity_provider o WHERE o.name = #{p.name} AND o.id <> #{p.id})
            """)
    int change(@Param("p") IdentityProvider provider);

    @Delete("DELETE FROM identity_provider WHERE id = #{id}")
    int remove(@Param("id") UUID id);

    @Select("SELECT group_name, role FROM provider_role WHERE provider = #{provider} ORDER BY group_name")
    List<GroupRole> roles(@Param("provider") UUID provider);

    @Delete("DELETE FROM provider_role WHERE provider = #{provider}")
    int removeRoles(@Param("provider") UUID provider);

    @Insert("INSERT INTO provider_role (provider, group_name, role) VALUES (#{provider}, #{r.groupName}, #{r.role})")
    int addRole(@Param("provider") UUID provider, @Param("r") GroupRole role);

    @Select(
            "SELECT provider, subject, sign_in FROM provider_identity WHERE provider = #{provider} AND subject = #{subject}")
    Optional<Identity> known(@Param("provider") UUID provider, @Param("subject") String subject);

    @Select("SELECT provider, subject, sign_in FROM provider_identity")
    List<Identity> identities();

    /** @return 0 when the subject, or the sign-in at this provider, is another's already */
    @Insert("""
            INSERT INTO provider_identity (provider, subject, sign_in, first_at, last_at)
            VALUES (#{i.provider}, #{i.subject}, #{i.signIn}, #{now}, #{now}) ON CONFLICT DO NOTHING
            """)
    int bind(@Param("i") Identity identity, @Param("now") Instant now);

    @Update("UPDATE provider_identity SET last_at = #{now} WHERE provider = #{provider} AND subject = #{subject}")
    int used(@Param("provider") UUID provider, @Param("subject") String subject, @Param("now") Instant now);

    /** Who comes back is known anew. */
    @Delete("DELETE FROM provider_identity WHERE sign_in = #{signIn}")
    int unbind(@Param("signIn") UUID signIn);

    @Update("UPDATE token SET provider = #{provider}, provider_hint = #{hint} WHERE id = #{token}")
    int openedBy(@Param("token") UUID token, @Param("provider") UUID provider, @Param("hint") byte[] hint);

    @Delete("DELETE FROM token WHERE provider = #{provider}")
    int endSessions(@Param("provider") UUID provider);

    /** By which provider a session was opened, and the encrypted token that it is ended with there. */
    record OpenedBy(UUID provider, byte[] hint) {}

    @Select("SELECT provider, provider_hint AS hint FROM token WHERE hash = #{hash} AND provider IS NOT NULL")
    Optional<OpenedBy> opener(@Param("hash") byte[] hash);
}
