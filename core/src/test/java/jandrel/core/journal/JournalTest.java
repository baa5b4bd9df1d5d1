package jandrel.core.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class JournalTest {
    /** The members and texts of the example in RFC 8785 §3.2.3, and the escapes of §3.2.2.2. */
    @Test
    void theCanonicalFormIsThatOfTheStandard() {
        Map<String, Object> members = new LinkedHashMap<>();
        members.put("\u20ac", "Euro Sign");
        members.put("\r", "Carriage Return");
        members.put("\ufb33", "Hebrew Letter Dalet With Dagesh");
        members.put("1", "One");
        members.put("\ud83d\ude00", "Emoji: Grinning Face");
        members.put("\u0080", "Control");
        members.put("\u00f6", "Latin Small Letter O With Diaeresis");
        assertThat(Canonical.json(members))
                .isEqualTo("{\"\\r\":\"Carriage Return\",\"1\":\"One\",\"\u0080\":\"Control\","
                        + "\"\u00f6\":\"Latin Small Letter O With Diaeresis\",\"\u20ac\":\"Euro Sign\","
                        + "\"\ud83d\ude00\":\"Emoji: Grinning Face\",\"\ufb33\":\"Hebrew Letter Dalet With Dagesh\"}");
        assertThat(Canonical.json("\u20ac$\u000f\nA'B\"\\\\\"/"))
                .isEqualTo("\"\u20ac$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"");
    }

    @Test
    void whatHasNoExactFormIsRefused() {
        assertThatThrownBy(() -> Canonical.json(1.5)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Canonical.json(List.of(1L << 60))).isInstanceOf(IllegalArgumentException.class);
        assertThat(Canonical.json(List.of(true, 12))).isEqualTo("[true,12]");
    }

    @Test
    void everyMemberOfAnEntryIsInItsHash() {
        Entry.Thing thing = new Entry.Thing("policy", "p1", "Everyone");
        Instant at = Instant.parse("2026-11-25T08:00:00Z");
        Entry entry = new Entry(1, at, "ina", "changed", thing, null, Map.of("sharing", "team"), Entry.START);
        assertThat(entry.hash()).hasSize(64).isEqualTo(Entry.hash(entry.canonical()));
        assertThat(List.of(
                        new Entry(2, at, "ina", "changed", thing, null, Map.of("sharing", "team"), Entry.START),
                        new Entry(1, at.plusSeconds(1), "ina", "changed", thing, null, entry.after(), Entry.START),
                        new Entry(1, at, "ida", "changed", thing, null, entry.after(), Entry.START),
                        new Entry(1, at, "ina", "removed", thing, null, entry.after(), Entry.START),
                        new Entry(1, at, "ina", "changed", thing, "x", entry.after(), Entry.START),
                        new Entry(1, at, "ina", "changed", thing, null, null, Entry.START),
                        new Entry(1, at, "ina", "changed", thing, null, entry.after(), "1" + Entry.START.substring(1))))
                .allSatisfy(other -> assertThat(other.hash()).isNotEqualTo(entry.hash()));
    }
}
