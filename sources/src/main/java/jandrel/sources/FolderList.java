package jandrel.sources;

import jakarta.mail.Folder;
import jakarta.mail.MessagingException;
import jandrel.sources.Mailbox.Role;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.imap.IMAPFolder;

/** Tells the folders of a mailbox apart: by their special use (RFC 6154), by their usual names where a server names none. */
final class FolderList {
    private static final int MOST = 500;
    /** All mail and flagged mail are views of the other folders. */
    private static final Set<String> NEVER = Set.of("\\drafts", "\\junk", "\\trash", "\\all", "\\flagged");

    private static final Set<String> CLOSED = Set.of("\\noselect", "\\nonexistent");
    private static final Map<String, Role> USES = Map.of("\\sent", Role.SENT, "\\archive", Role.ARCHIVE);
    private static final Set<String> NEVER_NAMED = Set.of(
            "drafts",
            "draft",
            "entwürfe",
            "junk",
            "junk e-mail",
            "spam",
            "trash",
            "deleted items",
            "deleted messages",
            "papierkorb");
    private static final Map<String, Role> NAMED = Map.of(
            "sent",
            Role.SENT,
            "sent items",
            Role.SENT,
            "sent messages",
            Role.SENT,
            "gesendet",
            Role.SENT,
            "archive",
            Role.ARCHIVE,
            "archives",
            Role.ARCHIVE);

    private FolderList() {}

    static List<Mailbox.Folder> of(Folder[] listed) throws MessagingException {
        boolean told = false;
        for (Folder folder : listed) {
            told |= attributes(folder).stream().anyMatch(a -> NEVER.contains(a) || USES.containsKey(a));
        }
        List<Mailbox.Folder> found = new ArrayList<>();
        for (Folder folder : listed) {
            Set<String> attributes = attributes(folder);
            boolean closed = attributes.stream().anyMatch(CLOSED::contains);
            if (closed || isNever(folder, attributes, told) || found.size() >= MOST) {
                continue;
            }
            Role role = role(folder, attributes, told);
            found.add(new Mailbox.Folder(folder.getFullName(), label(folder, role), role));
        }
        found.sort(Comparator.comparing(Mailbox.Folder::role).thenComparing(Mailbox.Folder::name));
        return found;
    }

    private static boolean isNever(Folder folder, Set<String> attributes, boolean told) {
        return attributes.stream().anyMatch(NEVER::contains) || (!told && NEVER_NAMED.contains(name(folder)));
    }

    private static Role role(Folder folder, Set<String> attributes, boolean told) {
        if (folder.getFullName().equalsIgnoreCase("INBOX")) {
            return Role.INBOX;
        }
        return attributes.stream()
                .map(USES::get)
                .filter(java.util.Objects::nonNull)
                .findFirst()
                .orElse(told ? Role.OTHER : NAMED.getOrDefault(name(folder), Role.OTHER));
    }

    private static String label(Folder folder, Role role) {
        return role == Role.OTHER ? folder.getFullName() : role.word();
    }

    private static String name(Folder folder) {
        return folder.getName().toLowerCase(Locale.ROOT);
    }

    private static Set<String> attributes(Folder folder) throws MessagingException {
        return Arrays.stream(((IMAPFolder) folder).getAttributes())
                .map(a -> a.toLowerCase(Locale.ROOT))
                .collect(Collectors.toSet());
    }
}
