package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.store.kernel.PageCursor;
import java.time.Instant;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PagingTest {
    @Test
    void aPageGoesOnWhereTheLastOneEnded() {
        Instant at = Instant.parse("2026-05-04T12:00:00.123456Z");
        UUID id = UUID.randomUUID();
        assertThat(Paging.after(Paging.next(at, id))).isEqualTo(new PageCursor(at, id));
        assertThat(Paging.after("")).isEqualTo(PageCursor.TOP);
        assertThat(Paging.after(null)).isEqualTo(PageCursor.TOP);
    }

    @ParameterizedTest
    @ValueSource(strings = {"x", "_", "2026-05-04T12:00:00Z_", "2026-05-04T12:00:00Z_no-uuid", "'; DROP TABLE person_"})
    void aForgedPlaceIsRefused(String next) {
        assertThatThrownBy(() -> Paging.after(next)).isInstanceOf(Refusal.class);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, -1, 201, Integer.MAX_VALUE})
    void aPageHasALimit(int limit) {
        assertThatThrownBy(() -> Paging.limit(limit)).isInstanceOf(Refusal.class);
    }
}
