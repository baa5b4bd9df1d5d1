package jandrel.formats.mail;

import jandrel.core.address.PhoneNumber;
import jandrel.core.item.Content;
import jandrel.core.item.Content.Attachment;
import jandrel.core.item.Item;
import jandrel.formats.calendar.Reply;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A message's facts, with what it says still raw: most of it is never kept, so it is made clean only on demand. */
public final class ReadMail {
    private final Item item;
    private final String plain;
    private final String html;
    private final List<Attachment> attachments;
    private final @Nullable Reply reply;

    ReadMail(Item item, String plain, String html, List<Attachment> attachments, @Nullable Reply reply) {
        this.reply = reply;
        this.item = item;
        this.plain = plain;
        this.html = html;
        this.attachments = List.copyOf(attachments);
    }

    /** A {@link jandrel.core.item.MailItem}, or an {@link jandrel.core.item.UnreadableItem}. */
    public Item item() {
        return item;
    }

    /** What a guest answers with it, if it is an answer to an invitation. */
    public Optional<Reply> reply() {
        return Optional.ofNullable(reply);
    }

    /** What was found of attachments in the bytes that were read. */
    public List<Attachment> attachments() {
        return attachments;
    }

    /** What it says, its HTML sanitised. Text is made of the HTML where the message brings none. */
    public Content content() {
        String cleanHtml = html.isBlank() ? "" : CleanHtml.sanitise(html);
        return new Content(text(), withoutNul(cleanHtml), attachments);
    }

    private String text() {
        return withoutNul(plain.isBlank() && !html.isBlank() ? CleanHtml.text(html) : plain);
    }

    /** Telephone numbers in its signature. */
    public List<PhoneNumber> phones(Phones phones) {
        return phones.in(text());
    }

    private static String withoutNul(String text) {
        return text.indexOf('\0') < 0 ? text : text.replace('\0', '\uFFFD');
    }
}
