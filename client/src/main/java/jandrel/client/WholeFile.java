package jandrel.client;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;

/** Writes a file that takes its name when it is whole. */
final class WholeFile {
    private WholeFile() {}

    @FunctionalInterface
    interface Content {
        void copyTo(OutputStream out) throws IOException;
    }

    /** One that is there already stays as it is. */
    static void write(Path file, Content content) {
        if (Files.exists(file)) {
            throw new Trouble(Trouble.USE, "the file " + file + " is there already");
        }
        Path part = null;
        try {
            part = Files.createTempFile(file.toAbsolutePath().getParent(), "jandrel", ".part");
            try (OutputStream to = Files.newOutputStream(part)) {
                content.copyTo(to);
            }
            Files.move(part, file);
        } catch (IOException unwritable) {
            throw new Trouble(Trouble.USE, "the file " + file + " cannot be written");
        } finally {
            if (part != null) {
                part.toFile().delete();
            }
        }
    }
}
