package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What stands on timelines. */
public final class ActivityApi {
    private ActivityApi() {}

    /**
     * A record that the asker keeps in sight.
     *
     * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}
     */
    public record FollowedInfo(UUID id, String kind, String name) {}

    /** Somebody of ours whose source showed the item. */
    public record OwnerInfo(UUID id, String name) {}

    /**
     * @param kind {@code mail} or {@code meeting}
     * @param visibility {@code full} or {@code outline}; an outline has no subject, people or place
     * @param sort {@code meeting}, {@code call} or {@code follow-up} for meetings; empty for mail and in an outline
     * @param mark {@code cancelled}, {@code deleted} or empty; empty in an outline
     * @param direction of mail: {@code out} where one of our people wrote it, else {@code in}; empty for meetings and in an outline
     * @param snippet the beginning of what a message adds, or of a meeting's description, in one line; empty where none is kept, and in an outline
     * @param conversation how many messages its conversation has on this timeline, where they were folded to this one; else 0
     * @param evidence what ties it to the record: {@code ruling}, {@code address}, {@code other_address}, {@code attendance},
     *     {@code contact}, {@code takes_part}, {@code only_open}, {@code domain} or {@code part}
     */
    public record ActivityInfo(
            UUID id,
            String kind,
            Instant at,
            @Nullable Instant ends,
            boolean allDay,
            String zone,
            String visibility,
            String subject,
            List<DecisionApi.PartyInfo> people,
            String place,
            String online,
            List<OwnerInfo> owners,
            String evidence,
            String mark,
            String sort,
            String direction,
            String snippet,
            int attachments,
            int conversation) {}

    /** @param next where the next page begins; empty on the last */
    public record TimelinePage(long total, List<ActivityInfo> activities, String next) {}

    /** @param from in UTF-16 code units from the beginning of the text */
    public record MarkInfo(int from, int length) {}

    /**
     * @param activity its snippet is the part of the text around what was found
     * @param inSubject where in the subject the words stand that were looked for
     */
    public record FoundInfo(ActivityInfo activity, List<MarkInfo> inSubject, List<MarkInfo> inSnippet) {}

    /**
     * What a search found, among what the asker reads in full.
     *
     * @param total how many there are, as far as they were counted
     * @param orMore whether there may be more than that
     * @param catchingUp whether some of what was captured lately cannot be found yet
     * @param next where the next page begins; empty on the last, and where the best come first
     */
    public record SearchPage(long total, boolean orMore, boolean catchingUp, List<FoundInfo> found, String next) {}

    /**
     * What lies ahead, the nearest first.
     *
     * @param total how many there are
     */
    public record PlannedPage(long total, List<ActivityInfo> activities) {}

    /** @param begins a Monday, UTC */
    public record WeekInfo(Instant begins, long mail, long meetings) {}

    public record LinkInfo(String kind, UUID id, String name, String evidence) {}

    public record AttachmentInfo(String name, String type, long bytes) {}

    /**
     * @param text all that it says
     * @param newText the beginning of it, up to the quoted history and the signature at its end
     * @param bodyState {@code here}, {@code wanted} (being fetched) or {@code gone} (its mailbox no longer has it)
     * @param readers why these read it, where more than one rule had a say
     * @param conversation the messages that it belongs together with, the oldest first, itself among them; empty when it is alone
     * @param phones telephone numbers in its signature (RFC 3966, digits alone)
     * @param forwarded who wrote the message that this one passes on
     * @param mine whether the asker's own source showed it, so that they may choose who reads it
     */
    public record ActivityDetail(
            ActivityInfo activity,
            List<LinkInfo> links,
            String text,
            String newText,
            String html,
            List<AttachmentInfo> attachments,
            String bodyState,
            List<String> readers,
            boolean mine,
            List<DecisionApi.DecisionInfo> decisions,
            List<ActivityInfo> conversation,
            List<String> phones,
            DecisionApi.@Nullable PartyInfo forwarded) {}

    /**
     * Who reads one activity, by the choice of somebody whose source showed it.
     *
     * @param opens whether it lets more read; else nobody reads but those named and whose it is
     * @param people keys or addresses
     */
    public record ReadersChoice(boolean opens, List<String> people, List<String> teams) {}
}
