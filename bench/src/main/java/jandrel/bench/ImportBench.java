package jandrel.bench;

import jandrel.api.DirectoryApi.FileColumn;
import jandrel.api.DirectoryApi.ImportInfo;
import jandrel.api.DirectoryApi.ImportMapping;
import jandrel.api.DirectoryApi.ImportPreview;
import jandrel.api.DirectoryApi.ImportUndone;
import jandrel.api.DirectoryApi.TakenImport;
import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Token;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import tools.jackson.databind.json.JsonMapper;

/**
 * A file of 100,000 contacts with headings of its own: looked at, shown, taken. Beside it, in the same run, the rows that come of it by
 * COPY into tables alike, indexes and all.
 */
final class ImportBench {
    private static final int CONTACTS = Integer.getInteger("jandrel.contacts", 100_000);
    private static final int ACCOUNTS = 5_000;
    private static final List<String> TABLES = List.of("contact", "contact_address", "contact_phone");
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final Stand stand;

    ImportBench(Stand stand) {
        this.stand = stand;
    }

    private static byte[] file() {
        StringBuilder text = new StringBuilder("Contact ID,First name,Last name,Company,E-mail,Mobile,Job title\n");
        for (int i = 0; i < CONTACTS; i++) {
            int account = i % ACCOUNTS;
            text.append("c%d,Ida%d,Moe,Account %d,ida%d@a%d.example,+47 22 %02d %02d %02d,Diver\n"
                    .formatted(i, i, account, i, account, i / 10_000, i / 100 % 100, i % 100));
        }
        return text.toString().getBytes(StandardCharsets.UTF_8);
    }

    void run() throws Exception {
        Database database = new Database(stand, "bench_import");
        ServiceProcess process = database.service("-Xmx768m", "1d");
        try {
            Service admin = process.administrator();
            StringBuilder accounts = new StringBuilder("key,name,domains\n");
            for (int i = 0; i < ACCOUNTS; i++) {
                accounts.append("a%d,Account %d,a%d.example\n".formatted(i, i, i));
            }
            admin.postCsv("/api/directory/accounts", accounts.toString(), Object.class);
            String token = new Service(process.url())
                    .post(
                            "/api/tokens",
                            new Credentials("admin", ServiceProcess.ADMIN_PASSWORD, "bench", null),
                            Token.class)
                    .token();
            byte[] file = file();
            for (String which : List.of("the first", "the same again")) {
                measured(process, admin, token, file, which);
            }
            long rows = database.count("SELECT count(*) FROM contact");
            if (rows != CONTACTS) {
                throw new IllegalStateException("took " + rows + " of " + CONTACTS);
            }
            Figures.line("the same rows by COPY, indexes and all", "%.1f s", copied(database));
            TakenImport taken = admin.get("/api/imports", TakenImport[].class)[1];
            long began = System.nanoTime();
            ImportUndone undone = admin.post("/api/imports/" + taken.id() + "/undo", Map.of(), ImportUndone.class);
            Figures.line("undone as a whole", "%.1f s   %,d removed", seconds(began), undone.removed());
            Figures.line("memory that the service has used at most", "%s", peak(process));
        } finally {
            process.close();
        }
    }

    private static void measured(ServiceProcess process, Service admin, String token, byte[] file, String which)
            throws Exception {
        long began = System.nanoTime();
        HttpResponse<String> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(process.url() + "/api/imports/contacts?name=theirs.csv"))
                                .header("Authorization", "Bearer " + token)
                                .header("Content-Type", "application/octet-stream")
                                .POST(HttpRequest.BodyPublishers.ofByteArray(file))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        ImportInfo looked = JSON.readValue(answer.body(), ImportInfo.class);
        double look = seconds(began);
        began = System.nanoTime();
        List<String> ours =
                new ArrayList<>(looked.columns().stream().map(FileColumn::ours).toList());
        ImportPreview preview =
                admin.put("/api/imports/" + looked.id() + "/mapping", new ImportMapping(ours), ImportPreview.class);
        double show = seconds(began);
        if (preview.added() + preview.unchanged() != CONTACTS) {
            throw new IllegalStateException("would take " + preview);
        }
        began = System.nanoTime();
        admin.ask("POST", "/api/imports/" + looked.id() + "/take", "{}");
        ImportInfo now = looked;
        while (!now.state().equals("done")) {
            Thread.sleep(100);
            now = admin.get("/api/imports/" + looked.id(), ImportInfo.class);
            if (now.state().equals("failed")) {
                throw new IllegalStateException(now.says());
            }
        }
        Figures.line(
                "100,000 contacts, " + which,
                "looked at %.1f s   shown %.1f s   taken %.1f s",
                look,
                show,
                seconds(began));
    }

    private static double seconds(long began) {
        return (System.nanoTime() - began) / 1e9;
    }

    private static double copied(Database database) throws Exception {
        double all = 0;
        try (Connection c = database.open()) {
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            for (String table : TABLES) {
                database.run("CREATE TABLE bare_" + table + " (LIKE " + table + " INCLUDING ALL)");
                ByteArrayOutputStream bytes = new ByteArrayOutputStream();
                copy.copyOut("COPY " + table + " TO STDOUT (FORMAT binary)", bytes);
                long began = System.nanoTime();
                copy.copyIn(
                        "COPY bare_" + table + " FROM STDIN (FORMAT binary)",
                        new ByteArrayInputStream(bytes.toByteArray()));
                all += seconds(began);
            }
        }
        return all;
    }

    static String peak(ServiceProcess process) throws Exception {
        return Files.readAllLines(Path.of("/proc/" + process.pid() + "/status")).stream()
                .filter(l -> l.startsWith("VmHWM"))
                .map(l -> l.replaceAll("\\D+", ""))
                .map(kb -> Long.parseLong(kb) / 1024 + " MB")
                .findFirst()
                .orElse("");
    }
}
