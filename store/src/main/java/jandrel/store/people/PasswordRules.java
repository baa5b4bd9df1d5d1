package jandrel.store.people;

import java.util.List;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;

/** Whether passwords open anything, and whose do when no others do. */
@Mapper
public interface PasswordRules {
    @Select("SELECT allowed FROM password_rule")
    boolean allowed();

    @Select(
            "SELECT (SELECT allowed FROM password_rule) OR EXISTS (SELECT FROM emergency_sign_in WHERE sign_in = #{signIn})")
    boolean allows(@Param("signIn") UUID signIn);

    @Select("SELECT s.login FROM emergency_sign_in e JOIN sign_in s ON s.id = e.sign_in ORDER BY s.login")
    List<String> emergency();

    /** How many others may sign in with a password whatever happens. */
    @Select("""
            SELECT count(*) FROM emergency_sign_in e JOIN sign_in s ON s.id = e.sign_in
            WHERE s.role = 'ADMINISTRATOR' AND s.ended_at IS NULL AND s.password IS NOT NULL AND NOT s.temporary AND s.id <> #{except}
            """)
    long otherEmergency(@Param("except") UUID except);

    @Update("UPDATE password_rule SET allowed = #{allowed}, administrators_need_codes = #{codes}")
    int allow(@Param("allowed") boolean allowed, @Param("codes") boolean administratorsNeedCodes);

    @Select("SELECT administrators_need_codes FROM password_rule")
    boolean administratorsNeedCodes();

    @Delete("DELETE FROM emergency_sign_in")
    int clear();

    @Insert("INSERT INTO emergency_sign_in (sign_in) VALUES (#{signIn}) ON CONFLICT DO NOTHING")
    int name(@Param("signIn") UUID signIn);
}
