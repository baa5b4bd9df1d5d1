package jandrel.api;

import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DecisionApi.PartyInfo;
import jandrel.api.DecisionApi.ReasonInfo;
import java.time.Instant;
import java.util.List;
import java.util.Map;
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
     * @param count how many there were, without those removed
     */
    public record EndLine(String type, long count, long removed) {}

    /**
     * What became of one item at one source.
     *
     * @param type {@code decision}
     * @param item what several decisions on the same item share; the id of its activity, if it is logged
     * @param kind {@code mail} or {@code meeting}
     * @param visibility {@code full} or {@code outline}: then there is no subject and nobody on it
     * @param trail the reasons as sentences
     * @param reasons the same as data
     */
    public record DecisionLine(
            String type,
            UUID id,
            UUID item,
            String kind,
            Instant at,
            UUID person,
            String personName,
            String source,
            String verdict,
            String visibility,
            String subject,
            List<PartyInfo> people,
            List<String> trail,
            List<ReasonInfo> reasons,
            @Nullable UUID activity) {}

    /**
     * A record of the directory.
     *
     * @param type {@code record}
     * @param kind {@code account}, {@code contact}, {@code lead} or {@code opportunity}
     * @param values by column, as the directory's files have them; without what is empty
     */
    public record RecordLine(
            String type, UUID id, String kind, String key, boolean archived, Map<String, String> values) {}
}
