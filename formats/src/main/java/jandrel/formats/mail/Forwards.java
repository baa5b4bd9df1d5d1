package jandrel.formats.mail;

import jandrel.core.item.Inside.Forwarded;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.james.mime4j.dom.address.Mailbox;

/**
 * Finds who wrote the message that this one passes on: as a part of its own, or quoted whole beneath header lines. In an answer
 * the one who is quoted is on the message too; in one that was passed on they are not. That tells the two apart in any language.
 */
final class Forwards {
    private static final Pattern BRACKETS = Pattern.compile("\\[(?:mailto:)?([^\\]\\s]{1,320})]");

    private Forwards() {}

    static Optional<Forwarded> of(MimeWalk walk, List<Party> parties) {
        if (!walk.enclosed().isEmpty()) {
            return author(walk.enclosed().first("from"), parties);
        }
        String line = NewText.quotedAuthor(walk.plain());
        return line.isEmpty()
                ? Optional.empty()
                : author(line.substring(line.indexOf(':') + 1).replace("*", " ").strip(), parties);
    }

    private static Optional<Forwarded> author(String written, List<Party> parties) {
        if (written.isEmpty() || written.length() > 1_000) {
            return Optional.empty();
        }
        // plain text shows an address with what it links to: name [mailto:a@b] or name <a@b <mailto:a@b>>
        String plain = BRACKETS.matcher(written).replaceAll("<$1>");
        int twice = plain.indexOf("<mailto:");
        plain = twice < 0 ? plain : plain.substring(0, twice);
        List<Mailbox> mailboxes = Parties.mailboxes(plain);
        return mailboxes.isEmpty()
                ? Optional.empty()
                : Parties.party(Part.FROM, mailboxes.get(0))
                        .filter(p -> parties.stream().noneMatch(k -> k.address().equals(p.address())))
                        .map(p -> new Forwarded(p.address(), p.name()));
    }
}
