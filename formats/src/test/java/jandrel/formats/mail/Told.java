package jandrel.formats.mail;

import jandrel.core.address.PhoneNumber;
import jandrel.core.item.Content;
import jandrel.core.item.Content.Attachment;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Subjects;
import jandrel.core.item.UnreadableItem;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** All that is read of a message, one fact a line; what says nothing is left out. */
final class Told {
    private static final int MOST_TEXT = 160;
    private final List<String> lines = new ArrayList<>();

    private Told() {}

    static String of(ReadMail read) {
        Told told = new Told();
        if (read.item() instanceof UnreadableItem unreadable) {
            told.line("unreadable", unreadable.reason());
        } else {
            told.mail((MailItem) read.item());
            told.content(read.content());
        }
        return String.join("\n", told.lines) + "\n";
    }

    private void mail(MailItem mail) {
        line("at", mail.at() + (mail.dateFromHeader() ? "" : " (the server's)"));
        for (Party p : mail.parties()) {
            line(p.part().name().toLowerCase(java.util.Locale.ROOT), (p.name() + " <" + p.address() + ">").strip());
        }
        line("subject", mail.subject());
        String bare = Subjects.bare(mail.subject());
        line("bare", bare.equals(mail.subject()) ? "" : bare);
        line(
                "nature",
                mail.nature().equals(Nature.ORDINARY)
                        ? ""
                        : mail.nature().kind() + " by " + mail.nature().evidence());
        int before = mail.strand().before().size();
        line("answers", before > 0 ? String.valueOf(before) : mail.strand().reply() ? "by its subject" : "");
        line("identity", mail.identity().startsWith("mail-digest:") ? "by digest" : "");
        line(
                "meeting",
                mail.inside().meeting() == null ? "" : mail.inside().meeting().toString());
        line(
                "forwarded",
                mail.inside().forwarded() == null
                        ? ""
                        : mail.inside().forwarded().toString());
        line("cut", mail.inside().cut() ? "yes" : "");
    }

    private void content(Content content) {
        String text = content.text().strip();
        line("text", shown(text));
        String added = NewText.of(content.text()).strip();
        line("new", added.equals(text) ? "" : shown(added));
        line("html", shown(content.html().strip()));
        line(
                "phones",
                new Phones("")
                        .in(content.text()).stream().map(PhoneNumber::text).collect(Collectors.joining(" ")));
        for (Attachment a : content.attachments()) {
            line("attached", a.name() + " (" + a.type() + ", " + a.bytes() + ")");
        }
    }

    private static String shown(String text) {
        String one = text.replace("\r", "").replace("\n", "⏎");
        return one.length() > MOST_TEXT ? one.substring(0, MOST_TEXT) + "… (" + text.length() + ")" : one;
    }

    private void line(String name, String value) {
        if (!value.isEmpty()) {
            lines.add(name + ": " + value);
        }
    }
}
