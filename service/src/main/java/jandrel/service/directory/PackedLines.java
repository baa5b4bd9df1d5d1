package jandrel.service.directory;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStreamWriter;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;

/** The lines of a file as they are kept while somebody looks at it: CSV, packed (gzip). */
final class PackedLines {
    private static final CSVFormat FORMAT =
            CSVFormat.RFC4180.builder().setIgnoreEmptyLines(false).get();

    private PackedLines() {}

    static byte[] packed(List<List<String>> lines) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (Writer text = new OutputStreamWriter(new GZIPOutputStream(bytes), StandardCharsets.UTF_8);
                CSVPrinter out = new CSVPrinter(text, FORMAT)) {
            for (List<String> line : lines) {
                out.printRecord(line);
            }
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return bytes.toByteArray();
    }

    static List<List<String>> unpacked(byte[] packed) {
        List<List<String>> lines = new ArrayList<>();
        try (Reader text =
                new InputStreamReader(new GZIPInputStream(new ByteArrayInputStream(packed)), StandardCharsets.UTF_8)) {
            for (CSVRecord line : FORMAT.parse(text)) {
                lines.add(line.toList());
            }
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
        return lines;
    }
}
