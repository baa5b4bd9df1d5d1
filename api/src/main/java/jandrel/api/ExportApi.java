package jandrel.api;

import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.PartyInfo;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What leaves as NDJSON: one JSON object a line, each with its {@code type}. */
public final class ExportApi {
    private ExportApi() {}

    /**
     * The first line.
     *
     * @param type {@code begin}
     * @param cursor what {@code since} of the next export is, once this one came to its end
     */
    public record BeginLine(String type, String cursor, Instant at) {}

    /**
     * @param type {@code activity}
     * @param kind {@code mail} or {@code meeting}
     * @param visibility {@code full} or {@code outline}: then there is no subject, nobody on it, no link and no text
     * @param sort {@code meeting}, {@code call} or {@code follow-up} for meetings
     * @param mark {@code cancelled}, {@code deleted} or empty
     * @param direction of mail: {@code out} where one of our people wrote it, else {@code in}
     */
    public record ActivityLine(
            String type,
            UUID id,
            String kind,
            Instant at,
            @Nullable Instant ends,
            boolean allDay,
            String visibility,
            String subject,
            List<PartyInfo> people,
            String place,
            List<OwnerInfo> owners,
            String mark,
            String sort,
            String direction,
            List<LinkLine> links,
            @Nullable String text) {}

    /** @param evidence what ties it to the record */
    public record LinkLine(String kind, UUID id, String name, String evidence) {}

    /**
     * It stood on timelines and does no more.
     *
     * @param type {@code removed}
     */
    public record RemovedLine(String type, UUID id) {}

    /**
     * The last line: without it the export is not whole.
     *
     * @param type {@code end}
     */
    public record EndLine(String type, long activities, long removed) {}
}
