package jandrel.service.measures;

import jandrel.api.MeasureApi.MeasureRow;
import java.util.List;

/**
 * Exactly what a figure counts, the newest first; each page is looked up when it is shown.
 *
 * @param total how many it counts
 * @param listed how many of them can be shown
 */
record CountedRows(long total, int listed, Pages pages) {
    @FunctionalInterface
    interface Pages {
        List<MeasureRow> of(int from, int until);
    }

    List<MeasureRow> page(int from, int most) {
        return pages.of(Math.min(from, listed), Math.min(from + most, listed));
    }
}
