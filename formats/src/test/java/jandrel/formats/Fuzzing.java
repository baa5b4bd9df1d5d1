package jandrel.formats;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.random.RandomGenerator;
import java.util.random.RandomGeneratorFactory;
import java.util.stream.Stream;

/**
 * Damages what the corpora hold, and puts it through the readers: none may crash, hang or fill the memory. Seeded: what failed is
 * replayed by its target and its seed.
 *
 * <pre>java -Xmx128m … jandrel.formats.Fuzzing minutes N | rounds N [seed S] [target NAME]</pre>
 */
public final class Fuzzing {
    private static final int LONGEST = 300_000;
    /** Of this thread's own work, as the machine may be busy with other things. */
    private static long slowNanos = 1_000_000_000L;

    private static long worked() {
        return ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
    }

    private static final String[] TOKENS = {
        "\r\n",
        "\r\n ",
        "\0",
        "=?utf-8?B?",
        "=?x-none?Q?",
        "?=",
        "\"",
        "(",
        "<",
        ">",
        "@",
        ";",
        ",",
        ":",
        "\\",
        "%00",
        "é",
        "\uFEFF",
        "BEGIN:VEVENT\r\n",
        "END:VEVENT\r\n",
        "BEGIN:VCALENDAR\r\n",
        "RRULE:FREQ=SECONDLY\r\n",
        "RRULE:FREQ=YEARLY;BYDAY=MO;BYHOUR=1,2;BYSETPOS=1\r\n",
        "RDATE:20260504T080000Z\r\n",
        "DURATION:P999999999W\r\n",
        "TZID=a/b/c/",
        "RECURRENCE-ID;RANGE=THISANDFUTURE:20260504T080000Z\r\n",
        "SEQUENCE:2147483648\r\n",
        "INTERVAL=2147483647",
        "BYMONTH=1,2,3,4",
        "COUNT=999999999",
        "UNTIL=99991231T235959Z",
        "Content-Type: multipart/mixed; boundary=b\r\n",
        "--b\r\n",
        "Content-Type: message/rfc822\r\n\r\n",
        "filename*0*=utf-8''",
        "<div>",
        "<table><tr><td>",
        "<a href=\"javascript:x\">",
        "<script>",
        "&#x0;",
        "<!--",
        "]]>",
        "> ",
        "-- \r\n",
        "-2147483649",
        "99999999999999999999"
    };

    private Fuzzing() {}

    private record Target(String name, List<byte[]> corpus, Consumer<byte[]> reader) {}

    /** What a run came to. */
    record Figures(long inputs, long slowestNanos, String slowest) {}

    public static void main(String[] arguments) throws IOException {
        long minutes = number(arguments, "minutes", 0);
        long rounds = number(arguments, "rounds", 0);
        long seed = number(arguments, "seed", System.nanoTime() >>> 8);
        String wanted = word(arguments, "target");
        long end = System.nanoTime() + minutes * 60_000_000_000L;
        slowNanos *= number(arguments, "seconds", 1);
        boolean failed = false;
        for (Target target : targets()) {
            if (!wanted.isEmpty() && !wanted.equals(target.name())) {
                continue;
            }
            long until = minutes == 0
                    ? Long.MAX_VALUE
                    : System.nanoTime() + (end - System.nanoTime()) / left(target, wanted);
            failed |= run(target, seed, minutes == 0 ? rounds : Long.MAX_VALUE, until);
        }
        System.exit(failed ? 1 : 0);
    }

    private static int left(Target target, String wanted) throws IOException {
        List<String> names = targets().stream().map(Target::name).toList();
        return wanted.isEmpty() ? names.size() - names.indexOf(target.name()) : 1;
    }

    private static long number(String[] arguments, String name, long otherwise) {
        String word = word(arguments, name);
        return word.isEmpty() ? otherwise : Long.parseLong(word);
    }

    private static String word(String[] arguments, String name) {
        for (int i = 0; i + 1 < arguments.length; i++) {
            if (arguments[i].equals(name)) {
                return arguments[i + 1];
            }
        }
        return "";
    }

    /** @return whether an input failed, or took longer than a second */
    private static boolean run(Target target, long seed, long rounds, long until) throws IOException {
        // what the first of a kind loads and compiles is not its own cost
        target.corpus().forEach(target.reader());
        long inputs = 0;
        long slowest = 0;
        for (long round = 0; round < rounds && System.nanoTime() < until; round++) {
            long own = seed + round;
            byte[] input = input(target, own);
            long began = worked();
            try {
                target.reader().accept(input);
            } catch (Throwable broken) {
                return report(target, own, input, "failed: " + broken);
            }
            long took = worked() - began;
            if (took > slowNanos && again(target, input) > slowNanos) {
                return report(target, own, input, String.format(Locale.ROOT, "took %.1f s", took / 1e9));
            }
            slowest = Math.max(slowest, took);
            inputs++;
        }
        System.out.printf(
                Locale.ROOT,
                "%-10s %,12d inputs   slowest %5.0f ms   seeds from %d%n",
                target.name(),
                inputs,
                slowest / 1e6,
                seed);
        return false;
    }

    /** A machine that does something else for a second is not slow input. */
    private static long again(Target target, byte[] input) {
        long began = worked();
        target.reader().accept(input);
        return worked() - began;
    }

    private static boolean report(Target target, long seed, byte[] input, String what) throws IOException {
        Path kept = Files.createTempFile("jandrel-fuzz-" + target.name() + "-", ".bin");
        Files.write(kept, input);
        System.out.println(target.name() + ": " + what + "; replay with: bin/fuzz --seed " + seed + " --target "
                + target.name() + " (" + kept + ")");
        return true;
    }

    private static byte[] input(Target target, long seed) {
        RandomGenerator random = RandomGeneratorFactory.of("L64X128MixRandom").create(seed);
        byte[] one = target.corpus().get(random.nextInt(target.corpus().size()));
        for (int n = random.nextInt(1, 7); n > 0; n--) {
            byte[] other = target.corpus().get(random.nextInt(target.corpus().size()));
            one = damaged(one, other, random);
            if (one.length > LONGEST) {
                one = java.util.Arrays.copyOf(one, LONGEST);
            }
        }
        return one;
    }

    private static byte[] damaged(byte[] one, byte[] other, RandomGenerator random) {
        return switch (random.nextInt(9)) {
            case 0 -> flipped(one, random);
            case 1 -> joined(part(one, random), part(other, random));
            case 2 -> joined(part(one, random), one);
            case 3 -> part(one, random);
            case 4 -> inserted(one, TOKENS[random.nextInt(TOKENS.length)].getBytes(StandardCharsets.UTF_8), random);
            case 5 ->
                inserted(
                        one,
                        repeated(TOKENS[random.nextInt(TOKENS.length)].getBytes(StandardCharsets.UTF_8), random),
                        random);
            case 6 -> inserted(one, repeated(line(one, random), random), random);
            case 7 -> inserted(one, line(other, random), random);
            default -> number(one, random);
        };
    }

    private static byte[] flipped(byte[] input, RandomGenerator random) {
        byte[] copy = input.clone();
        for (int i = 0; i < 1 + copy.length / 50 && copy.length > 0; i++) {
            copy[random.nextInt(copy.length)] = (byte) random.nextInt(256);
        }
        return copy;
    }

    private static byte[] part(byte[] input, RandomGenerator random) {
        if (input.length == 0) {
            return input;
        }
        int from = random.nextInt(input.length);
        return java.util.Arrays.copyOfRange(input, from, random.nextInt(from, input.length + 1));
    }

    private static byte[] line(byte[] input, RandomGenerator random) {
        if (input.length == 0) {
            return input;
        }
        int from = random.nextInt(input.length);
        while (from > 0 && input[from - 1] != '\n') {
            from--;
        }
        int to = from;
        while (to < input.length && input[to] != '\n') {
            to++;
        }
        return java.util.Arrays.copyOfRange(input, from, Math.min(input.length, to + 1));
    }

    private static byte[] repeated(byte[] piece, RandomGenerator random) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        int times = 1 << random.nextInt(14);
        for (int i = 0; i < times && out.size() < LONGEST; i++) {
            out.writeBytes(piece);
        }
        return out.toByteArray();
    }

    private static byte[] inserted(byte[] input, byte[] piece, RandomGenerator random) {
        int at = random.nextInt(input.length + 1);
        ByteArrayOutputStream out = new ByteArrayOutputStream(input.length + piece.length);
        out.write(input, 0, at);
        out.writeBytes(piece);
        out.write(input, at, input.length - at);
        return out.toByteArray();
    }

    /** Another number in the place of one. */
    private static byte[] number(byte[] input, RandomGenerator random) {
        String text = new String(input, StandardCharsets.ISO_8859_1);
        List<Integer> starts = new ArrayList<>();
        for (int i = 0; i < text.length() && starts.size() < 200; i++) {
            if (Character.isDigit(text.charAt(i)) && (i == 0 || !Character.isDigit(text.charAt(i - 1)))) {
                starts.add(i);
            }
        }
        if (starts.isEmpty()) {
            return input;
        }
        int from = starts.get(random.nextInt(starts.size()));
        int to = from;
        while (to < text.length() && Character.isDigit(text.charAt(to))) {
            to++;
        }
        String[] others = {
            "0", "1", "-1", "9999", "99999999", "2147483647", "2147483648", "99999999999999999999", "00000101"
        };
        return (text.substring(0, from) + others[random.nextInt(others.length)] + text.substring(to))
                .getBytes(StandardCharsets.ISO_8859_1);
    }

    private static byte[] joined(byte[] one, byte[] other) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(one.length + other.length);
        out.writeBytes(one);
        out.writeBytes(other);
        return out.toByteArray();
    }

    private static List<Target> targets() throws IOException {
        List<byte[]> mail = files("mail", ".eml");
        List<byte[]> calendars = files("calendar", ".ics");
        List<byte[]> html = new ArrayList<>(mail);
        html.add("<html><body><p>Hello <b>there</b></p><table><tr><td>1</td></tr></table></body></html>"
                .getBytes(StandardCharsets.UTF_8));
        List<byte[]> addresses = new ArrayList<>();
        for (String line : List.of(
                "Bram Holm <bram@skarvik.example>",
                "\"Holm, Bram\" <bram@skarvik.example>, Team: ida@skarvik.example, ole@skarvik.example;",
                "=?utf-8?Q?J=C3=B8rgen?= <jorgen@skarvik.example>",
                "Mon, 4 May 2026 11:30:00 +0200 (CEST)",
                "\"bram holm\"@skarvik.example (a remark (within))")) {
            addresses.add(line.getBytes(StandardCharsets.UTF_8));
        }
        List<byte[]> replies = new ArrayList<>(calendars);
        replies.add(
                ("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\nUID:u1\r\nDTSTAMP:20260504T080000Z\r\n"
                                + "RECURRENCE-ID;TZID=Europe/Oslo:20260504T100000\r\n"
                                + "ATTENDEE;PARTSTAT=ACCEPTED:mailto:bram@skarvik.example\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n")
                        .getBytes(StandardCharsets.UTF_8));
        return List.of(
                new Target("mail", mail, jandrel.formats.mail.MailFuzzTargets::message),
                new Target("calendar", calendars, jandrel.formats.calendar.CalendarFuzzTargets::object),
                new Target("reply", replies, jandrel.formats.calendar.CalendarFuzzTargets::reply),
                new Target("addresses", addresses, jandrel.formats.mail.MailFuzzTargets::addresses),
                new Target("html", html, jandrel.formats.mail.MailFuzzTargets::html));
    }

    private static List<byte[]> files(String folder, String ending) throws IOException {
        try (Stream<Path> files =
                Files.list(Path.of("src/test/resources", folder)).sorted()) {
            List<byte[]> all = new ArrayList<>();
            for (Path file : files.filter(f -> f.toString().endsWith(ending)).toList()) {
                all.add(Files.readAllBytes(file));
            }
            return all;
        }
    }
}
