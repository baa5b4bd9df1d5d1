package jandrel.service.measures;

import jandrel.core.decide.Rule;
import jandrel.core.decide.Sentences;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Sheet.Unit;
import jandrel.core.measures.WorkingHours;
import jandrel.core.measures.WorkingHours.Hours;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.NumberFormat;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;

/** What figures say in a sentence. */
final class MeasureWords {
    private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("LLLL uuuu", Locale.ENGLISH);
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d LLL uuuu", Locale.ENGLISH);
    private final Sheet sheet;

    private MeasureWords(Sheet sheet) {
        this.sheet = sheet;
    }

    static String of(Measure measure, Sheet sheet) {
        MeasureWords words = new MeasureWords(sheet);
        if (sheet.total().basis() == 0) {
            return switch (measure) {
                case FIRST_MEETINGS -> "There was no first meeting in this time.";
                case AFTER_TWO_MEETINGS -> "No opportunity had its second meeting in this time.";
                case TO_WIN -> "Nothing was won in this time.";
                case STAGES -> "There was no opportunity in this time.";
                case LAST_TOUCH -> "There is no account.";
                case CONTACT -> "There was neither mail nor a meeting in this time.";
                case REPLY_TIMES -> "No customer wrote in this time.";
                case CAPTURE -> "Nothing was seen in this time.";
                case DECIDED_AGAIN -> "No decision changed in this time.";
                case COVERAGE -> "Nobody was on record in this time.";
            };
        }
        return switch (measure) {
            case FIRST_MEETINGS -> words.firstMeetings();
            case AFTER_TWO_MEETINGS -> words.afterTwo();
            case TO_WIN -> words.toWin();
            case STAGES -> words.stages();
            case LAST_TOUCH -> words.lastTouch();
            case CONTACT -> words.contact();
            case REPLY_TIMES -> words.replyTimes();
            case CAPTURE -> words.capture();
            case DECIDED_AGAIN -> words.decidedAgain();
            case COVERAGE -> words.coverage();
        };
    }

    /** Of what a figure says less than it could; empty for nothing. */
    static String hidden(Measure measure, int hidden) {
        if (hidden == 0) {
            return "";
        }
        String accounts = hidden == 1 ? "1 account" : plain(hidden) + " accounts";
        String deals = hidden == 1 ? "1 opportunity" : plain(hidden) + " opportunities";
        return switch (measure) {
            case FIRST_MEETINGS -> "Without " + accounts + " whose first meetings you may not all read.";
            case AFTER_TWO_MEETINGS -> "Without " + deals + " whose meetings you may not all read.";
            case TO_WIN -> "The meetings of " + deals + " are not counted, as you may not read all of them.";
            case LAST_TOUCH ->
                "Of " + accounts + " you may not read everything: whether a reply is pending there is not counted.";
            case STAGES, CAPTURE, DECIDED_AGAIN, COVERAGE -> "";
            case REPLY_TIMES -> "Without some messages of " + accounts + ", as you may not read what came next.";
            case CONTACT ->
                "Without " + (hidden == 1 ? "1 message or meeting" : plain(hidden) + " messages and meetings")
                        + " that you may not read.";
        };
    }

    /** Such as {@code Mon to Fri 09:00–17:00 (Europe/Oslo)}. */
    static String hours(WorkingHours hours) {
        List<String> parts = new ArrayList<>();
        DayOfWeek first = null;
        for (DayOfWeek day : DayOfWeek.values()) {
            Hours on = hours.days().get(day);
            first = first == null ? day : first;
            boolean goesOn =
                    day != DayOfWeek.SUNDAY && Objects.equals(on, hours.days().get(day.plus(1)));
            if (!goesOn) {
                if (on != null) {
                    parts.add((first == day ? "" : shortly(first) + " to ") + shortly(day) + " " + on.from() + "–"
                            + on.until());
                }
                first = null;
            }
        }
        return (parts.isEmpty() ? "no day" : String.join(", ", parts)) + " ("
                + hours.zone().getId() + ")";
    }

    private static String shortly(DayOfWeek day) {
        return day.getDisplayName(TextStyle.SHORT, Locale.ENGLISH);
    }

    /** @param median a bound in seconds, as {@code most} */
    static String late(int median, int most) {
        return "Half of the mail that came meanwhile was on its timeline within " + seconds(median)
                + ", 95 of a hundred within " + seconds(most) + ".";
    }

    private static String seconds(int seconds) {
        return seconds < 120 ? seconds + " s" : seconds < 7_200 ? seconds / 60 + " min" : seconds / 3_600 + " h";
    }

    /**
     * What a line is called.
     *
     * @param names of people, accounts or policies
     */
    static String label(By by, String key, Map<UUID, String> names) {
        return switch (by) {
            case MONTH -> month(key);
            case OWNER -> key.isEmpty() ? "Nobody" : names.getOrDefault(UUID.fromString(key), "Somebody who has left");
            case TEAM -> key.isEmpty() ? "No team" : key;
            case CHANNEL -> key.isEmpty() ? "No channel" : key;
            case STAGE -> key.isEmpty() ? "No stage" : key;
            case RESULT -> key.isEmpty() ? "No result" : key;
            case WEEK -> "Week of " + day(key);
            case POLICY ->
                key.isEmpty() ? "No policy" : names.getOrDefault(UUID.fromString(key), "One that was removed");
            case VERSION -> key.isEmpty() ? "No policy" : version(key, names);
            case REASON -> key.isEmpty() ? "None: logged or waiting" : Sentences.heading(Rule.valueOf(key));
            case ACCOUNT ->
                key.isEmpty() ? "No account" : names.getOrDefault(UUID.fromString(key), "One that was removed");
        };
    }

    /** @param key the policy's id and its version */
    private static String version(String key, Map<UUID, String> names) {
        int at = key.indexOf(' ');
        return names.getOrDefault(UUID.fromString(key.substring(0, at)), "One that was removed") + ", version"
                + key.substring(at);
    }

    static String month(String key) {
        return YearMonth.parse(key).format(MONTH);
    }

    static String day(String key) {
        return LocalDate.parse(key).format(DAY);
    }

    private List<String> names() {
        return sheet.columns().stream().map(Sheet.Column::name).toList();
    }

    private double value(String column) {
        Double value = sheet.total().cells().get(names().indexOf(column)).value();
        return value == null ? 0 : value;
    }

    private String number(String column) {
        return plain(value(column));
    }

    private static String plain(double value) {
        NumberFormat format = NumberFormat.getInstance(Locale.UK);
        format.setMaximumFractionDigits(1);
        return format.format(BigDecimal.valueOf(value).setScale(1, RoundingMode.HALF_UP));
    }

    /** Such as {@code 3 accounts have}. */
    private String many(String column, String one, String several) {
        return number(column) + " " + (value(column) == 1 ? one : several);
    }

    private String percent(String column) {
        return Math.round(value(column) * 100) + " %";
    }

    private String decidedAgain() {
        return many("changed", "decision", "decisions") + " changed: " + many("logged now", "is", "are")
                + " logged now, " + many("no longer logged", "is", "are") + " no longer, " + number("other")
                + " changed otherwise.";
    }

    private String coverage() {
        return "Of " + many("people", "person", "people") + ", " + many("covered", "was", "were")
                + " covered at the end, " + number("connected") + " of them with something connected.";
    }

    private String firstMeetings() {
        String planned = value("planned") == 0 ? "" : ", " + many("planned", "is", "are") + " still to come";
        String held = many("held", "first meeting was", "first meetings were") + " held and " + number("missed")
                + " missed" + planned + ".";
        return value("held") == 0
                ? held
                : held + " " + percent("shown up") + " came; " + percent("met again") + " of those met again, "
                        + percent("won") + " won.";
    }

    private String afterTwo() {
        return many("opportunities", "opportunity", "opportunities") + " had the second meeting: " + number("won")
                + " won by now, " + number("agreed") + " agreed, " + number("meeting ahead") + " with a meeting ahead, "
                + number("nothing next") + " with nothing next, " + number("lost") + " lost.";
    }

    private String toWin() {
        // a few that one may read stand for nothing among many that one may not
        int known = sheet.total()
                .cells()
                .get(names().indexOf("meetings, median"))
                .rows()
                .size();
        boolean says = known > 0 && (sheet.hidden() == 0 || known >= Measure.TO_WIN.few());
        String meetings = says ? many("meetings, median", "meeting", "meetings") + " and " : "";
        return many("won", "opportunity was", "opportunities were") + " won, after " + meetings
                + many("days, median", "day", "days") + " at the median.";
    }

    private String stages() {
        List<String> worth = new ArrayList<>();
        for (int i = 0; i < sheet.columns().size(); i++) {
            Double value = sheet.total().cells().get(i).value();
            if (sheet.columns().get(i).unit() == Unit.MONEY && value != null) {
                worth.add(plain(value) + " " + sheet.columns().get(i).name());
            }
        }
        return many("in it", "opportunity stands", "opportunities stand") + " in the stages"
                + (worth.isEmpty() ? "" : ", worth " + String.join(" and ", worth)) + "; "
                + many("came in", "change", "changes") + " of stage in this time.";
    }

    private String lastTouch() {
        double lately = value("this week") + value("this month");
        return plain(lately) + " of " + many("accounts", "account was", "accounts were") + " touched within 30 days, "
                + number("longer ago") + " longer than a quarter ago, " + number("never") + " never; "
                + number("nothing next") + " with nothing next, " + number("reply pending") + " with a reply pending.";
    }

    private String replyTimes() {
        Double median =
                sheet.total().cells().get(names().indexOf("hours, median")).value();
        return many("messages", "message", "messages") + " wanted an answer: " + number("answered") + " got one"
                + (median == null
                        ? ""
                        : ", half of them within " + many("hours, median", "working hour", "working hours"))
                + "; "
                + number("waiting") + " still waiting, " + number("no answer") + " never answered.";
    }

    private String capture() {
        return many("seen", "message or meeting was", "messages and meetings were") + " seen: " + number("logged")
                + " logged, " + number("waiting") + " waiting, " + number("left out") + " left out and "
                + number("unreadable") + " unreadable.";
    }

    private String contact() {
        return many("mail in", "message", "messages") + " came and " + number("mail out") + " went out; "
                + many("meetings held", "meeting was", "meetings were") + " held and " + number("meetings missed")
                + " missed, with " + many("accounts", "account", "accounts") + " in all.";
    }
}
