package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.ContactHour.Account;
import jandrel.core.measures.ContactHour.One;
import jandrel.core.measures.ContactHour.What;
import jandrel.core.measures.Measure.By;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Monday to Friday, nine to five (UTC). */
class ReplyFiguresTest {
    private static final Instant NOW = Instant.parse("2026-06-30T12:00:00Z");
    private static final Span JUNE =
            new Span(LocalDate.parse("2026-06-01"), LocalDate.parse("2026-07-01"), ZoneId.of("UTC"));
    private static final UUID MAREN = new UUID(1, 1);
    private static final UUID TOBIAS = new UUID(1, 2);
    private static final Account SKARVIK = new Account(0, new UUID(2, 1));
    private static final Account LUNDBY = new Account(1, new UUID(2, 2));
    private final List<One> all = new ArrayList<>();

    private UUID was(What what, String at, UUID owner, Account... accounts) {
        return was(what, at, owner, Readers.EVERYONE, accounts);
    }

    private UUID was(What what, String at, UUID owner, Readers readers, Account... accounts) {
        UUID id = new UUID(9, all.size());
        Instant then = Instant.parse(at);
        all.add(new One(id, then, then, what, what, readers, null, owner, List.of(accounts), accounts[0].id()));
        return id;
    }

    private Sheet figures(By by, Only only) {
        return new ReplyFigures(
                        new Contacts(
                                List.of(new ContactHour(all)), new Viewer(Role.MANAGER, MAREN, Viewer.team("")), NOW),
                        only,
                        new TeamHistory(List.of()),
                        owner -> true,
                        WorkingHours.USUAL,
                        NOW)
                .of(JUNE, by);
    }

    private static Map<String, @Nullable Double> line(Sheet sheet, String key) {
        Sheet.Line line = key.equals("*")
                ? sheet.total()
                : sheet.lines().stream()
                        .filter(l -> l.key().equals(key))
                        .findFirst()
                        .orElseThrow();
        Map<String, @Nullable Double> values = new TreeMap<>();
        for (int i = 0; i < sheet.columns().size(); i++) {
            values.put(sheet.columns().get(i).name(), line.cells().get(i).value());
        }
        return values;
    }

    @Test
    void theFirstOfTheirsWaitsForTheNextOfOurs() {
        // Friday at four, pressed on Saturday, answered on Monday at eleven: three working hours
        UUID first = was(What.MAIL_IN, "2026-06-05T16:00:00Z", MAREN, SKARVIK);
        was(What.MAIL_IN, "2026-06-06T10:00:00Z", MAREN, SKARVIK);
        was(What.HELD, "2026-06-08T09:00:00Z", MAREN, SKARVIK);
        was(What.MAIL_OUT, "2026-06-08T11:00:00Z", TOBIAS, SKARVIK);
        // ours to another account answers nothing
        was(What.MAIL_OUT, "2026-06-05T16:30:00Z", TOBIAS, LUNDBY);
        Sheet sheet = figures(By.OWNER, Only.ALL);
        assertThat(sheet.lines()).extracting(Sheet.Line::key).containsExactly(TOBIAS.toString());
        assertThat(line(sheet, "*"))
                .containsEntry("messages", 1.0)
                .containsEntry("answered", 1.0)
                .containsEntry("hours, median", 3.0);
        assertThat(sheet.total().cells().get(0).rows()).containsExactly(new Sheet.Behind(first, SKARVIK.id()));
    }

    @Test
    void whatNobodyAnsweredWaitsThirtyDaysAndIsGivenUpThen() {
        was(What.MAIL_IN, "2026-06-02T10:00:00Z", MAREN, LUNDBY);
        was(What.MAIL_IN, "2026-06-01T09:00:00Z", MAREN, SKARVIK);
        Sheet sheet = figures(By.MONTH, Only.ALL);
        assertThat(line(sheet, "2026-06"))
                .containsEntry("messages", 2.0)
                .containsEntry("waiting", 2.0)
                .containsEntry("answered of all", 0.0);
        all.clear();
        was(What.MAIL_IN, "2026-05-30T09:00:00Z", MAREN, SKARVIK);
        was(What.MAIL_IN, "2026-06-29T09:00:01Z", MAREN, SKARVIK);
        // the one before was 30 days and a second ago: this one waits for itself
        assertThat(line(figures(By.MONTH, Only.ALL), "2026-06")).containsEntry("waiting", 1.0);
        // an answer to both, too late for the first
        was(What.MAIL_OUT, "2026-06-30T10:00:01Z", MAREN, SKARVIK);
        assertThat(line(figures(By.MONTH, Only.ALL), "2026-06")).containsEntry("hours, median", 9.0);
    }

    @Test
    void aMessageOfSeveralAccountsWaitsForEach() {
        was(What.MAIL_IN, "2026-06-02T10:00:00Z", MAREN, SKARVIK, LUNDBY);
        was(What.MAIL_OUT, "2026-06-02T11:00:00Z", MAREN, LUNDBY);
        Sheet sheet = figures(By.ACCOUNT, Only.ALL);
        assertThat(line(sheet, SKARVIK.id().toString())).containsEntry("waiting", 1.0);
        assertThat(line(sheet, LUNDBY.id().toString())).containsEntry("hours, median", 1.0);
        Only lundby = new Only(null, null, null, LUNDBY.id());
        assertThat(figures(By.ACCOUNT, lundby).total().basis()).isEqualTo(1);
    }

    @Test
    void whoMayNotReadWhatCameNextGetsNoFigureOfIt() {
        Readers tobias = Readers.only(Set.of(TOBIAS));
        was(What.MAIL_IN, "2026-06-02T10:00:00Z", MAREN, SKARVIK);
        was(What.MAIL_OUT, "2026-06-03T10:00:00Z", TOBIAS, tobias, SKARVIK);
        was(What.MAIL_OUT, "2026-06-04T10:00:00Z", TOBIAS, SKARVIK);
        // that one is a meeting, an outline says: it changes nothing
        was(What.HELD, "2026-06-02T12:00:00Z", TOBIAS, tobias, LUNDBY);
        was(What.MAIL_IN, "2026-06-02T10:00:00Z", MAREN, LUNDBY);
        was(What.MAIL_OUT, "2026-06-02T14:00:00Z", MAREN, LUNDBY);
        Sheet sheet = figures(By.MONTH, Only.ALL);
        assertThat(sheet.hidden()).isEqualTo(1);
        assertThat(line(sheet, "*")).containsEntry("messages", 1.0).containsEntry("hours, median", 4.0);
    }
}
