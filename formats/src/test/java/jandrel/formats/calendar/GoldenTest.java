package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Each file in {@code calendar} says what it is about, what must come out, and why each of that must. */
class GoldenTest {
    private static final Path FOLDER = Path.of("src/test/resources/calendar");
    private static final String YEAR = "2026-01-01T00:00:00Z/2027-01-01T00:00:00Z";

    static Stream<Path> files() throws IOException {
        return Files.list(FOLDER).sorted();
    }

    @Test
    void thereAreEnough() throws IOException {
        assertThat(files()).hasSizeGreaterThanOrEqualTo(120);
    }

    @ParameterizedTest
    @MethodSource("files")
    @Timeout(20)
    void itGivesWhatItsFileSays(Path file) throws IOException, UnreadableCalendar {
        byte[] bytes = Files.readAllBytes(file);
        Component calendar = ComponentReader.merged(Files.readString(file), CalendarLimits.USUAL);
        assertThat(calendar.value("X-WHY")).isNotEmpty();
        String[] window = (calendar.value("X-WINDOW").isEmpty() ? YEAR : calendar.value("X-WINDOW")).split("/");
        List<String> expected = calendar.all("X-EXPECT").stream()
                .peek(p -> assertThat(p.getParameters().first("X-BECAUSE")).isNotEmpty())
                .map(p -> p.getValue())
                .toList();
        boolean lengths = expected.stream().anyMatch(e -> e.contains("/"));
        CalendarWindow in = new CalendarWindow(Instant.parse(window[0]), Instant.parse(window[1]));
        List<String> found = new CalendarReader(CalendarLimits.USUAL)
                .read(bytes, in, "x").found().stream()
                        .map(o -> told(o.item(), lengths))
                        .sorted()
                        .toList();
        assertThat(found)
                .as(calendar.value("X-WHY"))
                .isEqualTo(expected.stream().sorted().toList());
    }

    private static String told(Item item, boolean lengths) {
        if (!(item instanceof MeetingItem meeting)) {
            return "unreadable";
        }
        assertThat(Duration.between(meeting.at(), meeting.ends())).isGreaterThanOrEqualTo(Duration.ZERO);
        return meeting.at() + (lengths ? "/" + meeting.ends() : "");
    }
}
