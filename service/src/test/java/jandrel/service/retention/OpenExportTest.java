package jandrel.service.retention;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.crypto.tink.InsecureSecretKeyAccess;
import com.google.crypto.tink.KeysetHandle;
import com.google.crypto.tink.RegistryConfiguration;
import com.google.crypto.tink.TinkJsonProtoKeysetFormat;
import com.google.crypto.tink.aead.AeadConfig;
import com.google.crypto.tink.aead.PredefinedAeadParameters;
import jandrel.service.kernel.KeyFile;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Arrays;
import java.util.Base64;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Nothing of a sealed file comes out but by its own key file, and whole. */
class OpenExportTest {
    private static final int TWO_SEGMENTS_AND_MORE = 2_500_000;

    @TempDir
    Path folder;

    private Path key;
    private Path sealed;
    private final byte[] content = new byte[TWO_SEGMENTS_AND_MORE];

    private Path key(String name, int seed) throws Exception {
        AeadConfig.register();
        byte[] hashing = new byte[32];
        new Random(seed).nextBytes(hashing);
        KeysetHandle vault = KeysetHandle.generateNew(PredefinedAeadParameters.AES256_GCM, RegistryConfiguration.get());
        return Files.writeString(
                folder.resolve(name),
                Base64.getEncoder().encodeToString(hashing) + "\n"
                        + TinkJsonProtoKeysetFormat.serializeKeyset(
                                        vault, RegistryConfiguration.get(), InsecureSecretKeyAccess.get())
                                .replace("\n", "")
                        + "\n");
    }

    @BeforeEach
    void seal() throws Exception {
        key = key("key", 1);
        sealed = folder.resolve("all.jandrel");
        new Random(2).nextBytes(content);
        try (OutputStream to = KeyFile.sealedStreams(key).seal(Files.newOutputStream(sealed))) {
            to.write(content);
        }
    }

    @Test
    void itsOwnKeyFileOpensItForItsOwnerAlone() throws Exception {
        Path to = folder.resolve("all.zip");
        assertThat(OpenExport.open(key, sealed, to)).isZero();
        assertThat(Files.readAllBytes(to)).isEqualTo(content);
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(to)))
                .isEqualTo("rw-------");
        assertThat(OpenExport.open(key, sealed, to)).as("it replaces nothing").isEqualTo(73);
    }

    private void refused(Path key, byte[] file) throws Exception {
        Path changed = Files.write(folder.resolve("changed"), file);
        Path to = folder.resolve("none.zip");
        assertThat(OpenExport.open(key, changed, to)).isEqualTo(65);
        assertThat(to).doesNotExist();
    }

    @Test
    void anotherKeyFileAChangedOneAndACutOneOpenNothing() throws Exception {
        byte[] file = Files.readAllBytes(sealed);
        refused(key("other", 3), file);
        refused(Files.writeString(folder.resolve("damaged"), "damaged"), file);
        refused(folder.resolve("none"), file);
        for (int at : new int[] {0, 30, 1 << 20, file.length - 1}) {
            byte[] changed = file.clone();
            changed[at] ^= 1;
            refused(key, changed);
        }
        for (int length : new int[] {0, 20, 1 << 20, 2 << 20, file.length - 1}) {
            refused(key, Arrays.copyOf(file, length));
        }
        // its second segment in the place of its first
        byte[] swapped = file.clone();
        System.arraycopy(file, 1 << 20, swapped, 40, (1 << 20) - 40);
        refused(key, swapped);
    }
}
