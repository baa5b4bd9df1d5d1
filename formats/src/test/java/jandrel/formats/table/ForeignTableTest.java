package jandrel.formats.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.formats.table.ForeignTable.Unreadable;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ForeignTableTest {
    @ParameterizedTest
    @CsvSource({
        "UTF-8, ','",
        "UTF-8, ;",
        "UTF-16LE, ;",
        "UTF-16BE, ','",
        "windows-1252, ;",
    })
    void textIsReadWhateverProgramWroteIt(String charset, char between) throws Exception {
        String mark = charset.startsWith("UTF-16") ? "\uFEFF" : "";
        String text = mark + "name" + between + "\"a " + between + " b\"\r\nBlåfjord" + between
                + "\"two\nlines\"\r\n\r\nx\r\n";
        ForeignTable table = ForeignTable.of(text.getBytes(Charset.forName(charset)));
        assertThat(table.heading()).containsExactly("name", "a " + between + " b");
        assertThat(table.lines()).containsExactly(List.of("Blåfjord", "two\nlines"), List.of("x", ""));
    }

    @Test
    void whatKeepsSpreadsheetsFromCountingIsNoPartOfACell() throws Exception {
        byte[] file = "phone,name,note\n'+47 22 55 01 02,'t Hart,'=1+1\n".getBytes(StandardCharsets.UTF_8);
        assertThat(ForeignTable.of(file).lines()).containsExactly(List.of("+47 22 55 01 02", "'t Hart", "=1+1"));
    }

    private static byte[] book() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Workbook book = new Workbook(out, "test", "1.0");
        Worksheet sheet = book.newWorksheet("one");
        sheet.value(0, 0, "name");
        sheet.value(0, 1, "since");
        sheet.value(0, 2, "value");
        sheet.value(1, 0, "Port");
        sheet.value(1, 1, LocalDate.of(2026, 3, 31));
        sheet.style(1, 1).format("dd/mm/yyyy").set();
        sheet.value(1, 2, 1250.5);
        sheet.value(3, 0, "=1+1");
        book.finish();
        return out.toByteArray();
    }

    @Test
    void aWorkbooksDaysAreDaysAndItsNumbersNumbers() throws Exception {
        ForeignTable table = ForeignTable.of(book());
        assertThat(table.heading()).containsExactly("name", "since", "value");
        assertThat(table.lines()).containsExactly(List.of("Port", "2026-03-31", "1250.5"), List.of("=1+1", "", ""));
    }

    @Test
    void whatWeWriteWeRead() throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (WorkbookOut book = new WorkbookOut(out, "contacts", List.of("key", "name"))) {
            book.row(List.of("1", "=HYPERLINK(\"x\")\u0000"));
        }
        assertThat(ForeignTable.of(out.toByteArray()).lines()).containsExactly(List.of("1", "=HYPERLINK(\"x\")"));
    }

    private static byte[] zip(String name, byte[] content, int times) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.setLevel(Deflater.BEST_COMPRESSION);
            zip.putNextEntry(new ZipEntry(name));
            for (int i = 0; i < times; i++) {
                zip.write(content);
            }
        }
        return out.toByteArray();
    }

    /** A few hundred kilobytes that unpack to half a gigabyte are not unpacked to the end. */
    @Test
    void whatUnpacksToTooMuchIsRefused() throws Exception {
        byte[] bomb = zip("xl/worksheets/sheet1.xml", new byte[1024 * 1024], 500);
        assertThat(bomb.length).isLessThan(1024 * 1024);
        Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(30),
                () -> assertThatThrownBy(() -> ForeignTable.of(bomb))
                        .isInstanceOf(Unreadable.class)
                        .hasMessageContaining("unpacks to more"));
    }

    /** Entities that grow, and those that read this machine's files. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<!DOCTYPE l [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;'>]>|&b;",
                "<!DOCTYPE l [<!ENTITY b SYSTEM 'file:///etc/hostname'>]>|&b;",
            })
    void noEntityOfASheetIsResolved(String declared, String used) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipFile in = ZipFile.builder()
                        .setSeekableByteChannel(new SeekableInMemoryByteChannel(book()))
                        .get();
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (ZipArchiveEntry entry : java.util.Collections.list(in.getEntries())) {
                String text = new String(in.getInputStream(entry).readAllBytes(), StandardCharsets.UTF_8);
                zip.putNextEntry(new ZipEntry(entry.getName()));
                String changed = entry.getName().contains("sharedStrings")
                        ? text.replaceFirst("\\?>", "?>" + java.util.regex.Matcher.quoteReplacement(declared))
                                .replace("Port", used)
                        : text;
                zip.write(changed.getBytes(StandardCharsets.UTF_8));
            }
        }
        String read;
        try {
            read = ForeignTable.of(out.toByteArray()).lines().toString();
        } catch (Unreadable refused) {
            read = "refused";
        }
        String host = java.nio.file.Files.exists(java.nio.file.Path.of("/etc/hostname"))
                ? java.nio.file.Files.readString(java.nio.file.Path.of("/etc/hostname"))
                        .strip()
                : "no such file";
        assertThat(read).doesNotContain("aaaaaaaaaa").doesNotContain("[" + host + ",");
    }

    @ParameterizedTest
    @CsvSource({"''", "' , '", "'PK\u0003\u0004broken'", "'a,b\n\"never closed'"})
    void whatIsNoTableSaysSo(String text) {
        assertThatThrownBy(() -> ForeignTable.of(text.getBytes(StandardCharsets.UTF_8)))
                .isInstanceOf(Unreadable.class);
    }

    /** Nothing but commas, and lines that lack almost all of what the first one names: each is small, and none of it is kept. */
    @ParameterizedTest
    @CsvSource({"199, 30000, 199", "199, 30000, 0"})
    void moreCellsThanThereIsRoomForAreRefused(int columns, int lines, int cells) {
        byte[] file = ("a,".repeat(columns) + "a\n" + (",".repeat(cells) + "x\n").repeat(lines))
                .getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> ForeignTable.of(file))
                .isInstanceOf(Unreadable.class)
                .hasMessageContaining("cells");
    }

    @Test
    void tooManyColumnsAreRefused() {
        byte[] wide = "a,".repeat(500).getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> ForeignTable.of(wide)).isInstanceOf(Unreadable.class);
    }
}
