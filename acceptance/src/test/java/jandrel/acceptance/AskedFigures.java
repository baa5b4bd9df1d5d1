package jandrel.acceptance;

import jandrel.api.MeasureApi.MeasureCell;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.demo.Service;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Figures as the API tells them. */
final class AskedFigures {
    private AskedFigures() {}

    /** Counted from the same moment as {@link Diaries#in}, so that both mean the same day when midnight passes. */
    static String day(int days) {
        return LocalDate.ofInstant(Diaries.in(0), ZoneOffset.UTC).plusDays(days).toString();
    }

    static MeasureSheet figures(Service asker, String measure, String query) throws Exception {
        return asker.get("/api/measures/" + measure + "?" + query, MeasureSheet.class);
    }

    static @Nullable Double total(MeasureSheet sheet, String column) {
        return cell(sheet, column).value();
    }

    static MeasureCell cell(MeasureSheet sheet, String column) {
        List<String> names = sheet.columns().stream().map(MeasureColumn::name).toList();
        return sheet.total().cells().get(names.indexOf(column));
    }
}
