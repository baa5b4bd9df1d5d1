package jandrel.store.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.kernel.ChangeCursor;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

class ActivityExportTest {
    private static StoreContext store;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_export");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    /** Wherever a page ends: the others' face of an activity comes first, and one's own must not be lost behind it. */
    @Test
    void everyActivityComesOnceAsItsViewerGetsIt() throws SQLException {
        UUID me = UUID.randomUUID();
        for (int i = 1; i <= 5; i++) {
            for (int face = 0; face < 2; face++) {
                store.run("""
                        INSERT INTO activity (id, item, face, faces, kind, at, all_day, subject, people, facts, readers, owners, insiders, mine,
                            elsewhere, version, trail)
                        VALUES ('%1$s', '%1$s', %2$d, 2, 'mail', now(), false, '', '', '{"identity":"mail:%3$d-%2$d","at":"2026-05-04T12:00:00Z",
                            "dateFromHeader":true,"parties":[],"subject":"face %2$d","nature":{"kind":"ORDINARY","evidence":""}}', NULL, '{}', '{}',
                            %4$s, %5$s, 'v', '[]')""".formatted(
                                new UUID(7, i),
                                face,
                                i,
                                face == 1 ? "ARRAY['" + me + "']::uuid[]" : "'{}'",
                                face == 0 ? "ARRAY['" + me + "']::uuid[]" : "'{}'"));
            }
        }
        ActivityExport export = store.get(ActivityExport.class);
        for (int size = 1; size <= 6; size++) {
            List<String> mine = new ArrayList<>();
            ActivityExport.Names names = new ActivityExport.Names();
            Optional<ActivityExport.Bounds> next = export.next(0, ChangeCursor.FIRST, size);
            while (next.isPresent()) {
                export.page(new Viewer(Role.REP, me), next.get(), false, names)
                        .forEach(e -> mine.add(e.id() + " " + e.heading().subject()));
                next = export.next(0, next.get().last(), size);
            }
            assertThat(mine)
                    .as("pages of %d", size)
                    .hasSize(5)
                    .doesNotHaveDuplicates()
                    .allMatch(s -> s.endsWith("face 1"));
        }
    }
}
