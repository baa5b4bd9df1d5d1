package jandrel.formats.mail;

import jandrel.core.item.Content;
import jandrel.core.item.Content.Attachment;
import jandrel.core.item.Item;
import java.util.List;

/** A message's facts, with what it says still raw: most of it is never kept, so it is made clean only on demand. */
public final class ReadMail {
    private final Item item;
    private final String plain;
    private final String html;
    private final List<Attachment> attachments;

    ReadMail(Item item, String plain, String html, List<Attachment> attachments) {
        this.item = item;
        this.plain = plain;
        this.html = html;
        this.attachments = List.copyOf(attachments);
    }

    /** A {@link jandrel.core.item.MailItem}, or an {@link jandrel.core.item.UnreadableItem}. */
    public Item item() {
        return item;
    }

    /** What was found of attachments in the bytes that were read. */
    public List<Attachment> attachments() {
        return attachments;
    }

    /** What it says, its HTML sanitised. Text is made of the HTML where the message brings none. */
    public Content content() {
        String cleanHtml = html.isBlank() ? "" : CleanHtml.sanitise(html);
        String text = plain.isBlank() && !html.isBlank() ? CleanHtml.text(html) : plain;
        return new Content(withoutNul(text), withoutNul(cleanHtml), attachments);
    }

    private static String withoutNul(String text) {
        return text.indexOf('\0') < 0 ? text : text.replace('\0', '\uFFFD');
    }
}
