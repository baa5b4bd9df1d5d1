package jandrel.service.measures;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.MeasureApi.WorkingDay;
import jandrel.api.MeasureApi.WorkingHoursInfo;
import jandrel.core.measures.WorkingHours;
import jandrel.core.measures.WorkingHours.Hours;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.measures.CompanyHours;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** When the company works: what the hours of {@link jandrel.core.measures.Measure#REPLY_TIMES} are. */
@RestController
class WorkingHoursCalls {
    private static final int MOST_HOLIDAYS = 500;
    private final CompanyHours hours;

    WorkingHoursCalls(CompanyHours hours) {
        this.hours = hours;
    }

    @GetMapping("/api/working-hours")
    WorkingHoursInfo hours() {
        WorkingHours now = hours.now();
        return new WorkingHoursInfo(
                now.zone().getId(),
                now.days().entrySet().stream()
                        .sorted(Map.Entry.comparingByKey())
                        .map(d -> shown(d.getKey(), d.getValue()))
                        .toList(),
                now.holidays().stream().sorted().map(LocalDate::toString).toList());
    }

    private static WorkingDay shown(DayOfWeek day, Hours hours) {
        return new WorkingDay(
                day.name().toLowerCase(Locale.ROOT),
                hours.from().toString(),
                hours.until().toString());
    }

    @PutMapping("/api/working-hours")
    WorkingHoursInfo change(@RequestBody WorkingHoursInfo wanted, @AuthenticationPrincipal SignedIn me) {
        List<LineProblem> problems = new ArrayList<>();
        Map<DayOfWeek, Hours> days = new EnumMap<>(DayOfWeek.class);
        for (int i = 0; i < wanted.days().size(); i++) {
            WorkingDay day = wanted.days().get(i);
            try {
                DayOfWeek named = DayOfWeek.valueOf(day.day().toUpperCase(Locale.ROOT));
                if (days.put(named, new Hours(LocalTime.parse(day.from()), LocalTime.parse(day.until()))) != null) {
                    problems.add(new LineProblem(i + 1, "days", "“" + day.day() + "” is there twice"));
                }
            } catch (DateTimeException unfit) {
                problems.add(new LineProblem(
                        i + 1, "days", "write “" + day.day() + "” like 09:00 to 17:00, the end after the beginning"));
            } catch (IllegalArgumentException unknown) {
                problems.add(new LineProblem(i + 1, "days", "there is no day “" + day.day() + "”"));
            }
        }
        Set<LocalDate> holidays = new HashSet<>();
        if (wanted.holidays().size() > MOST_HOLIDAYS) {
            problems.add(new LineProblem(0, "holidays", "there are more than " + MOST_HOLIDAYS));
        }
        for (int i = 0; i < Math.min(MOST_HOLIDAYS, wanted.holidays().size()); i++) {
            try {
                holidays.add(LocalDate.parse(wanted.holidays().get(i).strip()));
            } catch (DateTimeException unfit) {
                problems.add(new LineProblem(
                        i + 1, "holidays", "“" + wanted.holidays().get(i) + "” is not like 2026-12-25"));
            }
        }
        if (!problems.isEmpty()) {
            throw Refusal.misfit("Nothing was changed", "Mend those below.", problems);
        }
        hours.change(new WorkingHours(NamedZone.kept(wanted.zone()), days, holidays), me.login());
        return hours();
    }
}
