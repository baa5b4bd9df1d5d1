package jandrel.service.kernel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class KeysTest {
    @TempDir
    private Path folder;

    private Keys keys() throws Exception {
        Settings.Administrator nobody = new Settings.Administrator("admin", "hush");
        assertThat(nobody.toString()).doesNotContain("hush");
        return new Keys(new Settings(
                folder.resolve("deep/key"),
                "",
                Duration.ofSeconds(1),
                Duration.ofSeconds(60),
                false,
                "",
                java.util.List.of(),
                java.util.List.of(),
                true,
                "",
                new Settings.Smtp("", 25, true, "", "", "", ""),
                new Settings.HandOver("", 0, "", "", "", List.of(), List.of(), 0, 0),
                new Settings.SignIns(60, 600, 11),
                new Settings.Quotas(1, 1),
                nobody));
    }

    @Test
    void aSecretComesBackWithTheSameKeyFileAndForItsOwnConnectionAlone() throws Exception {
        UUID connection = UUID.randomUUID();
        byte[] locked = keys().vault().lock(connection, "buoy-and-tide");
        assertThat(new String(locked, StandardCharsets.ISO_8859_1)).doesNotContain("buoy");
        assertThat(keys().vault().unlock(connection, locked)).isEqualTo("buoy-and-tide");
        assertThatThrownBy(() -> keys().vault().unlock(UUID.randomUUID(), locked))
                .isInstanceOf(IllegalStateException.class);
        assertThat(keys().itemKeys().item("x"))
                .isEqualTo(keys().itemKeys().item("x"))
                .isNotEqualTo(keys().itemKeys().item("y"));
    }

    @Test
    void theKeyFileIsItsUsersAlone() throws Exception {
        keys();
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("deep/key"))))
                .isEqualTo("rw-------");
        Files.writeString(folder.resolve("deep/key"), "damaged");
        assertThatThrownBy(this::keys).hasMessageContaining("damaged");
    }
}
