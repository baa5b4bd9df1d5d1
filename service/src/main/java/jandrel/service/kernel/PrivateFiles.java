package jandrel.service.kernel;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;

/** Files that the service's user alone may read. */
public final class PrivateFiles {
    private PrivateFiles() {}

    /** Makes the file; it must not be there yet. */
    public static void write(Path file, String text) throws IOException {
        Files.createDirectories(file.getParent());
        Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(file, text, StandardOpenOption.TRUNCATE_EXISTING);
    }
}
