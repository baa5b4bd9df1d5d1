package jandrel.formats.mail;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.Content.Attachment;
import jandrel.core.item.MailItem;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.regex.Pattern;

/** What mail is put through, for {@link jandrel.formats.Fuzzing}. Each throws what a reader must never throw. */
public final class MailFuzzTargets {
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");
    private static final MailLimits LIMITS = MailLimits.USUAL;
    private static final MailReader READER = new MailReader(LIMITS);

    /** As markup: as words they are harmless. */
    private static final Pattern UNCLEAN = Pattern.compile(
            "<(script|img|style|iframe|object|form)|<[^>]{0,40}(\\son[a-z]+=|href=.?\\s*(javascript|data):)");

    private MailFuzzTargets() {}

    public static void message(byte[] input) {
        ReadMail read = READER.read(input, RECEIVED, "here", input.length % 2 == 0);
        Content content = read.content();
        NewText.of(content.text());
        new Phones("NO").in(content.text());
        Authenticity.isProven(input, List.of("mx.corvane.example"));
        Attached.of(input, new Attachment("plan.pdf", "application/pdf", 1));
        check(content.text().length() <= LIMITS.textChars() + LIMITS.parts(), "the text is longer than the limit");
        if (read.item() instanceof MailItem mail) {
            check(mail.parties().size() <= LIMITS.parties(), "there are more parties than the limit");
            check(mail.strand().before().size() <= 12, "there are more references than the limit");
            check(mail.subject().length() <= 500, "the subject is longer than the limit");
            check(mail.identity().length() <= 1_000, "the identity is longer than the limit");
            check(mail.sketch().length() <= 200, "the sketch is longer than the limit");
        }
    }

    public static void addresses(byte[] input) {
        String text = new String(input, StandardCharsets.UTF_8);
        EmailAddress.parse(text);
        message(("From: " + text + "\r\nTo: " + text + "\r\nDate: " + text + "\r\n\r\nx")
                .getBytes(StandardCharsets.UTF_8));
    }

    public static void html(byte[] input) {
        String html = new String(input, StandardCharsets.UTF_8);
        String clean = CleanHtml.sanitise(html);
        check(clean.length() < 9 * html.length() + 50_000, "the HTML grows by being cleaned");
        String lower = clean.toLowerCase(java.util.Locale.ROOT);
        check(!UNCLEAN.matcher(lower).find(), "the HTML is not clean");
        NewText.of(CleanHtml.text(html));
        CleanHtml.bare(html);
    }

    private static void check(boolean holds, String otherwise) {
        if (!holds) {
            throw new AssertionError(otherwise);
        }
    }
}
