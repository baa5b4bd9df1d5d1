package jandrel.service.retention;

import jandrel.service.kernel.KeyFile;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.GeneralSecurityException;

/**
 * Opens an export of everything for other programs, by somebody who holds the key file: what comes out is a ZIP file that is not sealed. It ends
 * with a code of sysexits.h, which bin/open-export puts into words.
 */
public final class OpenExport {
    private static final int USAGE = 64;
    private static final int DATA = 65;
    private static final int CANNOT_CREATE = 73;

    private OpenExport() {}

    /** @param arguments key file, export, where to */
    public static void main(String[] arguments) {
        System.exit(
                arguments.length == 3
                        ? open(Path.of(arguments[0]), Path.of(arguments[1]), Path.of(arguments[2]))
                        : USAGE);
    }

    static int open(Path key, Path export, Path to) {
        try {
            // readable by nobody but who opens it, from the first byte on
            Files.createFile(to, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        } catch (IOException thereOrUnwritable) {
            return CANNOT_CREATE;
        }
        try (InputStream from = KeyFile.sealedStreams(key).open(new BufferedInputStream(Files.newInputStream(export)));
                OutputStream out = Files.newOutputStream(to, StandardOpenOption.WRITE)) {
            from.transferTo(out);
            return 0;
        } catch (IOException | GeneralSecurityException closed) {
            to.toFile().delete();
            return DATA;
        }
    }
}
