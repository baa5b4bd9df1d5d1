package jandrel.bench;

import jandrel.demo.Stand;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Seconds of processor that each of those at work has taken, by Linux's count (proc(5), in hundredths).
 *
 * @param server the one that is read
 * @param name of it, as its folder in the stand is called
 */
record Cpu(double java, double postgres, double server, String name) {
    /** utime, stime, cutime and cstime, counted from the state of the process on. */
    private static final int FIRST = 11;

    private static final int LAST = 14;
    private static final int PARENT = 1;

    private record Ran(long parent, double seconds, String command) {}

    /** @param java its process */
    static Cpu now(Stand stand, long java) throws IOException {
        return now(stand, java, "dovecot");
    }

    /** @param server whose folder in the stand is called so */
    static Cpu now(Stand stand, long java, String server) throws IOException {
        Map<Long, Ran> all = new HashMap<>();
        try (Stream<Path> numbered = Files.list(Path.of("/proc"))) {
            for (Path folder : numbered.filter(p -> p.getFileName().toString().matches("\\d+"))
                    .toList()) {
                read(folder, all);
            }
        }
        Ran own = all.get(java);
        return new Cpu(
                own == null ? 0 : own.seconds(),
                tree(all, stand.dir() + "/pg/data"),
                tree(all, stand.dir() + "/" + server),
                server);
    }

    private static void read(Path folder, Map<Long, Ran> into) {
        try {
            String stat = Files.readString(folder.resolve("stat"));
            String[] fields = stat.substring(stat.lastIndexOf(')') + 2).split(" ", 0);
            double ticks = 0;
            for (int i = FIRST; i <= LAST; i++) {
                ticks += Long.parseLong(fields[i]);
            }
            String command = Files.readString(folder.resolve("cmdline")).replace('\0', ' ');
            into.put(
                    Long.parseLong(folder.getFileName().toString()),
                    new Ran(Long.parseLong(fields[PARENT]), ticks / 100, command));
        } catch (IOException ended) {
            // between being listed and being read
        }
    }

    /** Of a server's first process, which its command line tells, and of all that it began, those that have ended among them. */
    private static double tree(Map<Long, Ran> all, String folder) {
        Set<Long> members = new HashSet<>();
        all.forEach((id, process) -> {
            if (process.command().contains(folder) && !process.command().contains("java")) {
                members.add(id);
            }
        });
        for (boolean more = true; more; ) {
            more = false;
            for (Map.Entry<Long, Ran> one : all.entrySet()) {
                more |= members.contains(one.getValue().parent()) && members.add(one.getKey());
            }
        }
        return all.entrySet().stream()
                .filter(e -> members.contains(e.getKey()))
                .mapToDouble(e -> e.getValue().seconds())
                .sum();
    }

    /** Microseconds for each of so many messages. */
    String since(Cpu before, int messages) {
        double each = 1e6 / messages;
        return String.format(
                Locale.ROOT,
                "Java %.0f, PostgreSQL %.0f, %s %.0f us",
                (java - before.java) * each,
                (postgres - before.postgres) * each,
                name,
                (server - before.server) * each);
    }
}
