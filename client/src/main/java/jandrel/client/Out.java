package jandrel.client;

import java.io.PrintStream;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a command says: tables and sentences for people, one JSON object a line for programs. */
final class Out {
    private static final DateTimeFormatter MINUTE = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("uuuu-MM-dd");
    private final PrintStream stream;
    private final boolean json;
    private final int width;
    private final ZoneId zone;

    /** In which times are typed and shown. */
    ZoneId zone() {
        return zone;
    }

    Out(PrintStream stream, boolean json, int width, ZoneId zone) {
        this.stream = stream;
        this.json = json;
        this.width = width;
        this.zone = zone;
    }

    boolean json() {
        return json;
    }

    PrintStream stream() {
        return stream;
    }

    void objects(List<?> objects) {
        objects.forEach(o -> stream.println(Http.JSON.writeValueAsString(o)));
    }

    void table(Table table) {
        table.print(stream, width);
    }

    void say(String sentence) {
        if (!json) {
            stream.println(sentence);
        }
    }

    String time(@Nullable Instant at) {
        return at == null ? "" : MINUTE.format(at.atZone(zone));
    }

    String time(Instant at, boolean allDay) {
        // a whole day is the same day for everybody
        return allDay ? DAY.format(at.atZone(java.time.ZoneOffset.UTC)) + " all day" : time(at);
    }

    /** @param many the plural; without its last letter it is the singular, as all of ours are */
    static String of(long n, long total, String many) {
        String what = total == 1 ? singular(many) : many;
        return n < total ? String.format("%,d of %,d %s", n, total, what) : String.format("%,d %s", total, what);
    }

    private static String singular(String many) {
        if (many.equals("people")) {
            return "person";
        }
        if (many.endsWith("ches")) {
            return many.substring(0, many.length() - 2);
        }
        return many.endsWith("ies") ? many.substring(0, many.length() - 3) + "y" : many.substring(0, many.length() - 1);
    }
}
