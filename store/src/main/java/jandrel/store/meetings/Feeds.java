package jandrel.store.meetings;

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

/** Subscriptions by a secret address, of which only the hash is kept. */
@Mapper
public interface Feeds {
    /** @param kind {@code record} or {@code person} */
    record Feed(
            UUID id,
            UUID signIn,
            String kind,
            UUID ofId,
            String name,
            Instant madeAt,
            @Nullable Instant lastRead) {}

    @Insert("""
            INSERT INTO feed (id, hash, sign_in, kind, of_id, name)
            VALUES (#{id}, #{hash}, #{signIn}, #{kind}, #{ofId}, #{name})
            """)
    int add(
            @Param("id") UUID id,
            @Param("hash") byte[] hash,
            @Param("signIn") UUID signIn,
            @Param("kind") String kind,
            @Param("ofId") UUID ofId,
            @Param("name") String name);

    @Select("""
            SELECT id, sign_in, kind, of_id, name, made_at, last_read FROM feed WHERE sign_in = #{signIn} ORDER BY made_at
            """)
    List<Feed> of(@Param("signIn") UUID signIn);

    @Select("SELECT id, sign_in, kind, of_id, name, made_at, last_read FROM feed WHERE hash = #{hash}")
    Optional<Feed> byHash(@Param("hash") byte[] hash);

    @Update("UPDATE feed SET last_read = #{now} WHERE id = #{id}")
    int read(@Param("id") UUID id, @Param("now") Instant now);

    @Delete("DELETE FROM feed WHERE sign_in = #{signIn}")
    int removeAll(@Param("signIn") UUID signIn);

    @Delete("DELETE FROM feed WHERE id = #{id} AND sign_in = #{signIn}")
    int remove(@Param("id") UUID id, @Param("signIn") UUID signIn);
}
