package jandrel.store.measures;

import jandrel.core.journal.Entry.Thing;
import jandrel.core.measures.WorkingHours;
import jandrel.core.measures.WorkingHours.Hours;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.RulesLock;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** When the company works. */
@Component
public class CompanyHours {
    private final Mapped mapper;
    private final Journal journal;
    private final RulesLock rules;

    @Mapper
    interface Mapped {
        @Select("SELECT hours FROM working_hours")
        Optional<String> hours();

        @Insert(
                "INSERT INTO working_hours (hours) VALUES (#{hours}) ON CONFLICT (one) DO UPDATE SET hours = excluded.hours")
        int put(@Param("hours") String hours);
    }

    CompanyHours(Mapped mapper, Journal journal, RulesLock rules) {
        this.mapper = mapper;
        this.journal = journal;
        this.rules = rules;
    }

    public WorkingHours now() {
        return mapper.hours().map(h -> Json.read(h, WorkingHours.class)).orElse(WorkingHours.USUAL);
    }

    @Transactional
    public void change(WorkingHours hours, String by) {
        rules.alone();
        WorkingHours before = now();
        if (!before.equals(hours)) {
            mapper.put(Json.write(hours));
            journal.add(
                    by, "changed", new Thing("company", "hours", "working hours"), described(before), described(hours));
        }
    }

    private static Map<String, Object> described(WorkingHours hours) {
        Map<String, Object> days = new LinkedHashMap<>();
        for (DayOfWeek day : DayOfWeek.values()) {
            Hours on = hours.days().get(day);
            if (on != null) {
                days.put(day.name().toLowerCase(Locale.ROOT), on.from() + " to " + on.until());
            }
        }
        return Map.of(
                "zone",
                hours.zone().getId(),
                "days",
                days,
                "holidays",
                hours.holidays().stream().sorted().map(LocalDate::toString).toList());
    }
}
