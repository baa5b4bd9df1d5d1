package jandrel.service.directory;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ExportApi.RecordLine;
import jandrel.service.kernel.Exports;
import jandrel.store.directory.RecordExport;
import jandrel.store.directory.RecordExport.Exported;
import java.io.IOException;
import java.util.Locale;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All records of the directory as a stream. */
@RestController
class RecordExportCalls {
    private final RecordExport export;
    private final Exports exports;

    RecordExportCalls(RecordExport export, Exports exports) {
        this.export = export;
        this.exports = exports;
    }

    /**
     * One JSON object a line: {@code begin} with the cursor of the next export, {@code record}, {@code removed}, {@code end}. Without the
     * last line it is not whole.
     *
     * @param since the cursor of an earlier export, so that only what changed since comes; missing for all
     * @param after the id of the last record that came, to go on where an export broke off
     */
    @GetMapping(path = "/api/export/records.ndjson", produces = "application/x-ndjson")
    void records(
            @RequestParam(name = "since", defaultValue = "0") long since,
            @RequestParam(name = "after", required = false) @Nullable UUID after,
            HttpServletResponse response)
            throws IOException {
        exports.send("records.ndjson", since, response, out -> {
            boolean whole = out.pages(after, export::next, Exported::id, RecordExportCalls::line);
            if (whole) {
                out.removed(export::gone);
            }
            return whole;
        });
    }

    private static RecordLine line(Exported e) {
        return new RecordLine(
                "record", e.id(), e.kind().name().toLowerCase(Locale.ROOT), e.key(), e.archived(), e.values());
    }
}
