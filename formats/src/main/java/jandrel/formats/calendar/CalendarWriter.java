package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectWriter;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/** Writes components: what was read and not changed as it stood, lines of at most 75 octets (RFC 5545 §3.1). */
final class CalendarWriter {
    private static final int LONGEST_LINE = 75;
    private final ByteArrayOutputStream out = new ByteArrayOutputStream(4_096);

    private CalendarWriter() {}

    static byte[] write(Component calendar) {
        CalendarWriter writer = new CalendarWriter();
        writer.component(calendar);
        return writer.out.toByteArray();
    }

    private void component(Component component) {
        line("BEGIN:" + component.name());
        for (VObjectProperty property : component.properties()) {
            line(property instanceof RawProperty raw ? raw.unchanged().orElseGet(() -> made(raw)) : made(property));
        }
        component.children().forEach(this::component);
        line("END:" + component.name());
    }

    private static String made(VObjectProperty property) {
        StringWriter text = new StringWriter();
        try (VObjectWriter writer = new VObjectWriter(text, SyntaxStyle.NEW)) {
            writer.getFoldedLineWriter().setLineLength(null);
            writer.setCaretEncodingEnabled(true);
            writer.writeProperty(property);
        } catch (IOException inMemory) {
            throw new UncheckedIOException(inMemory);
        }
        return text.toString().stripTrailing();
    }

    /** Folded between characters, never within one. */
    private void line(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        int at = 0;
        int room = LONGEST_LINE;
        while (bytes.length - at > room) {
            int end = at + room;
            while ((bytes[end] & 0xC0) == 0x80) {
                end--;
            }
            out.write(bytes, at, end - at);
            out.writeBytes(new byte[] {'\r', '\n', ' '});
            at = end;
            room = LONGEST_LINE - 1;
        }
        out.write(bytes, at, bytes.length - at);
        out.writeBytes(new byte[] {'\r', '\n'});
    }
}
