package jandrel.formats.table;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;

/**
 * A table from elsewhere: CSV with commas, semicolons or tabs, in UTF-8, UTF-16 or Windows-1252; or the first sheet of an .xlsx workbook
 * (ECMA-376). What it costs is bounded, whatever it says of itself.
 *
 * @param heading its first line
 * @param lines below that; cells that a line lacks are empty
 */
public record ForeignTable(List<String> heading, List<List<String>> lines) {
    public static final int MOST_LINES = 500_000;
    /** Each takes memory, those too that a line lacks. */
    static final int MOST_CELLS = 5_000_000;

    private static final int MOST_COLUMNS = 200;
    private static final long LARGEST_UNPACKED = 150L * 1024 * 1024;
    private static final int MOST_PARTS = 2_000;
    private static final byte[] ZIP = {'P', 'K', 3, 4};
    private static final char BOM = '\uFEFF';

    /** It cannot be read, and why. */
    public static final class Unreadable extends Exception {
        private static final long serialVersionUID = 1L;

        Unreadable(String why) {
            super(why);
        }
    }

    public static ForeignTable of(byte[] file) throws Unreadable {
        List<List<String>> all = isZip(file) ? workbook(file) : text(file);
        if (all.isEmpty() || all.get(0).stream().allMatch(String::isBlank)) {
            throw new Unreadable("it is empty; its first line must name the columns");
        }
        int columns = all.get(0).size();
        if ((long) columns * all.size() > MOST_CELLS) {
            throw tooManyCells();
        }
        List<String> heading = all.get(0).stream()
                .map(h -> h.replace(String.valueOf(BOM), "").strip())
                .toList();
        List<List<String>> lines = new ArrayList<>(all.size());
        for (List<String> line : all.subList(1, all.size())) {
            List<String> cells = new ArrayList<>(line.subList(0, Math.min(columns, line.size())));
            while (cells.size() < columns) {
                cells.add("");
            }
            lines.add(cells);
        }
        return new ForeignTable(heading, lines);
    }

    private static boolean isZip(byte[] file) {
        return file.length > ZIP.length && ByteBuffer.wrap(file, 0, ZIP.length).equals(ByteBuffer.wrap(ZIP));
    }

    private static List<List<String>> text(byte[] file) throws Unreadable {
        String text = decoded(file);
        List<List<String>> lines = new ArrayList<>();
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setIgnoreEmptyLines(true)
                .setDelimiter(delimiter(text))
                .get();
        try (CSVParser parser = format.parse(new StringReader(text))) {
            long cells = 0;
            for (Iterator<CSVRecord> records = parser.iterator(); records.hasNext(); ) {
                List<String> line =
                        records.next().stream().map(ForeignTable::unguarded).toList();
                cells += line.size();
                added(lines, line, cells);
            }
        } catch (IOException | RuntimeException broken) {
            throw new Unreadable("it breaks off, or its quotes do not close");
        }
        return lines;
    }

    /** What keeps a spreadsheet from taking a cell for a formula, as we and others write it, is no part of the cell. */
    private static String unguarded(String cell) {
        return cell.length() > 1 && cell.charAt(0) == '\'' && "=+-@\t".indexOf(cell.charAt(1)) >= 0
                ? cell.substring(1)
                : cell;
    }

    private static Unreadable tooManyCells() {
        return new Unreadable("it has more than " + MOST_CELLS + " cells; split it");
    }

    /** @param cells so many by now */
    private static void added(List<List<String>> lines, List<String> line, long cells) throws Unreadable {
        if (cells > MOST_CELLS) {
            throw tooManyCells();
        }
        if (line.size() > MOST_COLUMNS) {
            throw new Unreadable("it has more than " + MOST_COLUMNS + " columns");
        }
        if (lines.size() > MOST_LINES) {
            throw new Unreadable("it has more than " + MOST_LINES + " lines; split it");
        }
        lines.add(line);
    }

    private static String decoded(byte[] file) {
        Charset marked = file.length > 1 && (file[0] & 0xFF) == 0xFF && (file[1] & 0xFF) == 0xFE
                ? StandardCharsets.UTF_16LE
                : file.length > 1 && (file[0] & 0xFF) == 0xFE && (file[1] & 0xFF) == 0xFF
                        ? StandardCharsets.UTF_16BE
                        : StandardCharsets.UTF_8;
        try {
            return marked.newDecoder().decode(ByteBuffer.wrap(file)).toString();
        } catch (CharacterCodingException other) {
            // what spreadsheets in western Europe write where they do not write UTF-8; every byte is a letter in it
            return new String(file, Charset.forName("windows-1252"));
        }
    }

    /** The one that stands most often in the first line, outside quotes. */
    private static char delimiter(String text) {
        int end = text.indexOf('\n');
        String first = (end < 0 ? text : text.substring(0, end)).replaceAll("\"[^\"]*\"", "");
        char best = ',';
        for (char c : new char[] {';', '\t'}) {
            if (count(first, c) > count(first, best)) {
                best = c;
            }
        }
        return best;
    }

    private static long count(String text, char letter) {
        return text.chars().filter(x -> x == letter).count();
    }

    private static List<List<String>> workbook(byte[] file) throws Unreadable {
        unpackable(file);
        List<List<String>> lines = new ArrayList<>();
        try (ReadableWorkbook book =
                        new ReadableWorkbook(new ByteArrayInputStream(file), new ReadingOptions(true, false));
                var rows = book.getFirstSheet().openStream()) {
            long cells = 0;
            for (Iterator<Row> all = rows.iterator(); all.hasNext(); ) {
                Row row = all.next();
                cells += row.getCellCount();
                if (row.getCellCount() > MOST_COLUMNS) {
                    throw new Unreadable("it has more than " + MOST_COLUMNS + " columns");
                }
                List<String> line = new ArrayList<>();
                for (int i = 0; i < row.getCellCount(); i++) {
                    line.add(row.getOptionalCell(i).map(ForeignTable::shown).orElse(""));
                }
                if (!line.stream().allMatch(String::isBlank)) {
                    added(lines, line, cells);
                }
            }
        } catch (IOException | RuntimeException broken) {
            throw new Unreadable("it is no .xlsx workbook, or a broken one");
        }
        return lines;
    }

    private static String shown(Cell cell) {
        if (cell.getType() == CellType.NUMBER) {
            return Optional.ofNullable(cell.getDataFormatString())
                    .filter(ForeignTable::isDate)
                    .map(format -> {
                        var at = cell.asDate();
                        return at.toLocalTime().equals(LocalTime.MIDNIGHT)
                                ? at.toLocalDate().toString()
                                : at.toString();
                    })
                    .orElseGet(() -> cell.asNumber().toPlainString());
        }
        String text = cell.getText();
        return text == null ? "" : text;
    }

    /** Of a number format (ECMA-376 part 1, 18.8.30): whether it shows days. */
    private static boolean isDate(String format) {
        String bare = format.replaceAll("\"[^\"]*\"|\\[[^\\]]*]|\\\\.", "").toLowerCase(java.util.Locale.ROOT);
        return bare.contains("yy") || (bare.contains("d") && bare.contains("m"));
    }

    /** What a file claims to hold is counted before anything reads it: a small one may unpack to more than there is memory. */
    private static void unpackable(byte[] file) throws Unreadable {
        long unpacked = 0;
        int parts = 0;
        byte[] buffer = new byte[64 * 1024];
        try (ZipFile zip = ZipFile.builder()
                .setSeekableByteChannel(new SeekableInMemoryByteChannel(file))
                .get()) {
            for (Iterator<ZipArchiveEntry> all = zip.getEntries().asIterator(); all.hasNext(); ) {
                if (++parts > MOST_PARTS) {
                    throw new Unreadable("it has more parts than a workbook has");
                }
                try (InputStream part = zip.getInputStream(all.next())) {
                    unpacked += counted(part, buffer, LARGEST_UNPACKED - unpacked);
                }
            }
        } catch (IOException | IllegalArgumentException broken) {
            throw new Unreadable("it is no .xlsx workbook, or a broken one");
        }
    }

    private static long counted(InputStream in, byte[] buffer, long most) throws IOException, Unreadable {
        long all = 0;
        for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
            all += n;
            if (all > most) {
                throw new Unreadable("it unpacks to more than " + LARGEST_UNPACKED / 1024 / 1024 + " MB");
            }
        }
        return all;
    }
}
