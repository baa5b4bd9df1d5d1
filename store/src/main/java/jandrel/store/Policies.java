package jandrel.store;

import jandrel.core.decide.Rule;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The policy. Every version of it is kept; the newest counts. */
@Component
public class Policies {
    private final Mapped mapper;
    private final IntakeMapper intake;
    private final Rules rules;

    @Mapper
    interface Mapped {
        @Select("""
                SELECT version, mail, meetings, back_days, ahead_days, sharing FROM policy ORDER BY version DESC LIMIT 1
                """)
        Row newest();

        @Insert("""
                INSERT INTO policy (version, mail, meetings, back_days, ahead_days, sharing, changed_by)
                VALUES (#{p.version}, #{p.mail}, #{p.meetings}, #{p.backDays}, #{p.aheadDays}, #{p.sharing}, #{by})
                """)
        int add(@Param("p") Row policy, @Param("by") String by);

        /** Reads again from the beginning of a window that has grown. */
        @Update("""
                WITH c AS (UPDATE connection SET since = date_trunc('day', connected_at) - make_interval(days => #{days})
                           RETURNING id)
                UPDATE source SET cursor = '' WHERE connection IN (SELECT id FROM c)
                """)
        int lookBack(@Param("days") int days);

        /** So that series are followed into a window that reaches further, or less far. */
        @Update("UPDATE source SET cursor = '' WHERE kind = 'calendar'")
        int lookAhead();
    }

    record Row(int version, boolean mail, boolean meetings, int backDays, int aheadDays, String sharing) {}

    Policies(Mapped mapper, IntakeMapper intake, Rules rules) {
        this.mapper = mapper;
        this.intake = intake;
        this.rules = rules;
    }

    public Policy current() {
        Row row = mapper.newest();
        return new Policy(
                row.version(),
                row.mail(),
                row.meetings(),
                row.backDays(),
                row.aheadDays(),
                Sharing.valueOf(row.sharing()));
    }

    /**
     * Makes a new version, and has everything known decided again under it.
     *
     * @param wanted its version must be the one that it was made from
     * @throws StaleVersion if somebody else has changed the policy since
     */
    @Transactional
    public Policy change(Policy wanted, String by) {
        rules.change();
        Policy before = current();
        if (before.version() != wanted.version()) {
            throw new StaleVersion();
        }
        mapper.add(
                new Row(
                        before.version() + 1,
                        wanted.mail(),
                        wanted.meetings(),
                        wanted.backDays(),
                        wanted.aheadDays(),
                        wanted.sharing().name()),
                by);
        if (wanted.backDays() != before.backDays()) {
            mapper.lookBack(wanted.backDays());
        }
        if (wanted.aheadDays() != before.aheadDays()) {
            mapper.lookAhead();
        }
        intake.refetch(new String[] {Rule.MAIL_OFF.name(), Rule.MEETINGS_OFF.name(), Rule.TOO_OLD.name()});
        intake.reconsiderAll();
        return current();
    }
}
