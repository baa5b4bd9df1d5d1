package jandrel.sources;

import jakarta.mail.AuthenticationFailedException;
import jakarta.mail.FolderClosedException;
import jakarta.mail.MessagingException;
import jakarta.mail.Session;
import jakarta.mail.StoreClosedException;
import jakarta.mail.event.MailEvent;
import jandrel.core.item.Content.Attachment;
import java.io.IOException;
import java.net.SocketTimeoutException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.stream.Collectors;
import org.eclipse.angus.mail.iap.ConnectionException;
import org.eclipse.angus.mail.iap.ProtocolException;
import org.eclipse.angus.mail.iap.Response;
import org.eclipse.angus.mail.imap.IMAPFolder;
import org.eclipse.angus.mail.imap.IMAPStore;
import org.eclipse.angus.mail.imap.MessageVanishedEvent;
import org.eclipse.angus.mail.imap.ResyncData;
import org.eclipse.angus.mail.imap.protocol.BODY;
import org.eclipse.angus.mail.imap.protocol.BODYSTRUCTURE;
import org.eclipse.angus.mail.imap.protocol.FLAGS;
import org.eclipse.angus.mail.imap.protocol.FetchResponse;
import org.eclipse.angus.mail.imap.protocol.IMAPProtocol;
import org.eclipse.angus.mail.imap.protocol.IMAPResponse;
import org.eclipse.angus.mail.imap.protocol.INTERNALDATE;
import org.eclipse.angus.mail.imap.protocol.RFC822SIZE;
import org.eclipse.angus.mail.imap.protocol.Status;
import org.eclipse.angus.mail.imap.protocol.UID;
import org.jspecify.annotations.Nullable;

/**
 * IMAP4rev1 (RFC 3501) over TLS. Folders are opened by EXAMINE and bodies taken by BODY.PEEK: nothing at the server changes. Whole
 * batches come by one raw FETCH, since asking message by message costs thirty times as much.
 */
public final class ImapMailbox implements Mailbox {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("d-MMM-uuuu", Locale.ENGLISH);
    /**
     * All of it in one command: to answer, a server may read all that it knows of the folder (RFC 3501 §6.3.10). The last is only
     * for one that counts changes (RFC 7162 §3.1.2.1).
     */
    private static final List<String> STATE = List.of("MESSAGES", "UIDNEXT", "UIDVALIDITY", "HIGHESTMODSEQ");

    private static final int MOST_SIZES = 5_000;
    private static final String WHO = "the mail server";
    private final IMAPStore store;
    private final AbortableSockets sockets;
    private @Nullable IMAPFolder open;
    /** By which numbering each folder was looked at: what is asked by a number later is asked by that one. */
    private final Map<String, Long> validities = new HashMap<>();

    private ImapMailbox(IMAPStore store, AbortableSockets sockets) {
        this.store = store;
        this.sockets = sockets;
    }

    public static ImapMailbox open(Endpoint endpoint, ServerAccount account, Trust trust) {
        return open(endpoint, account, trust, Patience.USUAL);
    }

    public static ImapMailbox open(Endpoint endpoint, ServerAccount account, Trust trust, Patience patience) {
        AbortableSockets sockets = new AbortableSockets(trust.sockets(), patience.whole());
        Properties p = new Properties();
        p.put("mail.imaps.ssl.socketFactory", sockets);
        p.put("mail.imaps.ssl.checkserveridentity", "true");
        p.put("mail.imaps.connectiontimeout", "15000");
        p.put("mail.imaps.timeout", String.valueOf(patience.answer().toMillis()));
        p.put("mail.imaps.writetimeout", "30000");
        p.put("mail.imaps.connectionpoolsize", "1");
        p.put("mail.imaps.statuscachetimeout", "100");
        if (account.bearer()) {
            OAuthBearer.register();
            p.put("mail.imaps.sasl.enable", "true");
            p.put("mail.imaps.sasl.mechanisms", OAuthBearer.NAME);
            p.put("mail.imaps.auth.mechanisms", "XOAUTH2");
            p.put("mail.imaps.sasl.usecanonicalhostname", "false");
        }
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            IMAPStore store = (IMAPStore) Session.getInstance(p).getStore("imaps");
            store.connect(endpoint.host(), endpoint.port(), account.login(), account.secret());
            return new ImapMailbox(store, sockets);
        } catch (AuthenticationFailedException refused) {
            if (String.valueOf(refused.getMessage()).contains("[UNAVAILABLE]")) {
                // RFC 5530 §3: it cannot tell now whether it takes the sign-in
                throw new SourceTrouble(
                        SourceTrouble.Kind.UNREACHABLE,
                        "the mail server cannot check sign-ins at the moment; its administrator can see why",
                        refused);
            }
            throw new SourceTrouble(
                    SourceTrouble.Kind.SIGN_IN,
                    account.bearer()
                            ? "the mail server does not take the consent any more; sign in again"
                            : "the mail server does not take this sign-in; renew the password",
                    refused);
        } catch (MessagingException unreachable) {
            throw unreachable(sockets, unreachable);
        }
    }

    @Override
    public List<Mailbox.Folder> folders() {
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            return FolderList.of(store.getDefaultFolder().list("*"));
        } catch (MessagingException broken) {
            throw broken("its folders cannot be listed", broken);
        }
    }

    @Override
    public String abilities() {
        try {
            List<String> has = new ArrayList<>();
            for (String ability : List.of("IDLE", "NOTIFY", "CONDSTORE", "QRESYNC", "SPECIAL-USE", "UIDPLUS")) {
                if (store.hasCapability(ability)) {
                    has.add(ability);
                }
            }
            return has.isEmpty() ? "plain IMAP4rev1" : String.join(", ", has);
        } catch (MessagingException broken) {
            throw broken("it does not say what it can do", broken);
        }
    }

    @Override
    public boolean answers() {
        try {
            if (open != null && open.isOpen()) {
                close(open);
            }
            return store.isConnected();
        } catch (MessagingException | IllegalStateException gone) {
            return false;
        }
    }

    @Override
    public Extent extent(String name) {
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            if (open != null && open.isOpen() && open.getFullName().equals(name)) {
                close(open);
            }
            boolean counts = store.hasCapability("CONDSTORE");
            IMAPFolder folder = (IMAPFolder) store.getFolder(name);
            String[] asked = STATE.subList(0, counts ? 4 : 3).toArray(String[]::new);
            Status status = (Status) folder.doCommand(protocol -> protocol.status(folder.getFullName(), asked));
            if (status == null) {
                throw new MessagingException("no STATUS");
            }
            validities.put(name, status.uidvalidity);
            return new Extent(
                    status.uidvalidity, status.uidnext, status.total, counts ? Math.max(0, status.highestmodseq) : 0);
        } catch (MessagingException broken) {
            throw broken("a folder cannot be looked at", broken);
        }
    }

    @Override
    public Extent enter(String name) {
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            validities.remove(name);
            IMAPFolder folder = opened(name);
            long next = folder.getUIDNext();
            if (next <= 0) {
                return extent(name);
            }
            long validity = folder.getUIDValidity();
            validities.put(name, validity);
            long changes = store.hasCapability("CONDSTORE") ? Math.max(0, folder.getHighestModSeq()) : 0;
            return new Extent(validity, next, folder.getMessageCount(), changes);
        } catch (MessagingException broken) {
            throw broken("a folder cannot be looked at", broken);
        }
    }

    @Override
    public long[] uids(String folder, long first, LocalDate since) {
        String search = "UID SEARCH UID " + first + ":* SINCE " + DAY.format(since);
        // n:* always names the last message, even when its number is lower (RFC 3501 §6.4.8)
        return command(
                folder,
                protocol -> Arrays.stream(ask(protocol, search))
                        .filter(r -> r instanceof IMAPResponse i && i.keyEquals("SEARCH"))
                        .flatMapToLong(UidSets::numbers)
                        .filter(uid -> uid >= first)
                        .sorted()
                        .toArray());
    }

    @Override
    public Set<Long> existing(String folder, Collection<Long> uids) {
        return uids.isEmpty() ? Set.of() : found(folder, "UID SEARCH UID " + UidSets.text(uids));
    }

    @Override
    public long count(String folder, long first, long last) {
        return last < first
                ? 0
                : found(folder, "UID SEARCH UID " + first + ":" + last).size();
    }

    @Override
    public Set<Long> withKeyword(String folder, String keyword) {
        return found(folder, "UID SEARCH KEYWORD " + keyword);
    }

    private Set<Long> found(String folder, String search) {
        return command(
                folder,
                protocol -> Arrays.stream(ask(protocol, search))
                        .filter(r -> r instanceof IMAPResponse i && i.keyEquals("SEARCH"))
                        .flatMapToLong(UidSets::numbers)
                        .boxed()
                        .collect(Collectors.toSet()));
    }

    @Override
    public Optional<List<Run>> goneSince(String name, long validity, long changes) {
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            if (!store.hasCapability("QRESYNC")) {
                return Optional.empty();
            }
            if (open != null && open.isOpen()) {
                close(open);
            }
            IMAPFolder folder = (IMAPFolder) store.getFolder(name);
            List<MailEvent> events = folder.open(jakarta.mail.Folder.READ_ONLY, new ResyncData(validity, changes));
            open = folder;
            List<Run> gone = new ArrayList<>();
            for (MailEvent event : events == null ? List.<MailEvent>of() : events) {
                if (event instanceof MessageVanishedEvent vanished) {
                    UidSets.runs(vanished.getUIDs(), gone);
                }
            }
            return Optional.of(gone);
        } catch (MessagingException broken) {
            throw broken("a folder cannot be compared", broken);
        }
    }

    @Override
    public void keyword(String name, Collection<Long> uids, String keyword, boolean carries) {
        if (uids.isEmpty()) {
            return;
        }
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            if (open != null && open.isOpen()) {
                close(open);
            }
            IMAPFolder folder = (IMAPFolder) store.getFolder(name);
            folder.open(jakarta.mail.Folder.READ_WRITE);
            open = folder;
            checkNumbering(folder);
            String store =
                    "UID STORE " + UidSets.text(uids) + (carries ? " +" : " -") + "FLAGS.SILENT (" + keyword + ")";
            folder.doCommand(protocol -> {
                Response[] answers = protocol.command(store, null);
                protocol.notifyResponseHandlers(answers);
                return answers.length;
            });
            close(folder);
        } catch (MessagingException broken) {
            throw broken("a keyword cannot be put to messages", broken);
        }
    }

    private static void close(IMAPFolder folder) throws MessagingException {
        folder.close(false);
    }

    @Override
    public Map<Long, Long> sizes(String folder, Collection<Long> uids) {
        Map<Long, Long> sizes = new HashMap<>(2 * uids.size());
        List<Long> all = List.copyOf(uids);
        for (int from = 0; from < all.size(); from += MOST_SIZES) {
            String what = "UID FETCH " + UidSets.text(all.subList(from, Math.min(all.size(), from + MOST_SIZES)))
                    + " (UID RFC822.SIZE)";
            command(folder, protocol -> {
                for (Response r : ask(protocol, what)) {
                    UID uid = r instanceof FetchResponse f ? f.getItem(UID.class) : null;
                    RFC822SIZE size = r instanceof FetchResponse f ? f.getItem(RFC822SIZE.class) : null;
                    if (uid != null && size != null) {
                        sizes.put(uid.uid, (long) size.size);
                    }
                }
                return sizes;
            });
        }
        return sizes;
    }

    @Override
    public List<Message> fetch(String folder, Collection<Long> uids) {
        if (uids.isEmpty()) {
            return List.of();
        }
        String what = "UID FETCH " + UidSets.text(uids) + " (UID FLAGS INTERNALDATE RFC822.SIZE BODY.PEEK[]<0."
                + LONGEST + ">)";
        return command(folder, protocol -> {
            List<Message> messages = new ArrayList<>(uids.size());
            List<Long> cut = new ArrayList<>();
            for (Response r : ask(protocol, what)) {
                Message message = r instanceof FetchResponse f ? message(f, cut) : null;
                if (message != null) {
                    messages.add(message);
                }
            }
            return cut.isEmpty() ? messages : withAttachments(messages, structures(protocol, cut));
        });
    }

    @Override
    public Optional<byte[]> whole(String folder, long uid, int largest) {
        return command(folder, protocol -> {
            boolean fits = Arrays.stream(ask(protocol, "UID FETCH " + uid + " (RFC822.SIZE)"))
                    .filter(FetchResponse.class::isInstance)
                    .map(r -> ((FetchResponse) r).getItem(RFC822SIZE.class))
                    .anyMatch(size -> size != null && size.size <= largest);
            if (!fits) {
                return Optional.empty();
            }
            return Arrays.stream(ask(protocol, "UID FETCH " + uid + " (UID BODY.PEEK[])"))
                    .filter(FetchResponse.class::isInstance)
                    .map(r -> ((FetchResponse) r).getItem(BODY.class))
                    .filter(body -> body != null && body.getByteArray() != null)
                    .map(body -> body.getByteArray().getNewBytes())
                    .findFirst();
        });
    }

    private static @Nullable Message message(FetchResponse response, List<Long> cut) {
        UID uid = response.getItem(UID.class);
        BODY body = response.getItem(BODY.class);
        if (uid == null || body == null || body.getByteArray() == null) {
            return null;
        }
        INTERNALDATE date = response.getItem(INTERNALDATE.class);
        RFC822SIZE size = response.getItem(RFC822SIZE.class);
        byte[] bytes = body.getByteArray().getNewBytes();
        if (size != null && size.size > bytes.length && bytes.length >= LONGEST) {
            cut.add(uid.uid);
        }
        Instant received = date == null || date.getDate() == null
                ? Instant.EPOCH
                : date.getDate().toInstant();
        boolean more = size != null && size.size > bytes.length && bytes.length >= LONGEST;
        return new Message(uid.uid, received, bytes, null, keywords(response.getItem(FLAGS.class)), more);
    }

    private static Set<String> keywords(@Nullable FLAGS flags) {
        return flags == null || flags.getUserFlags().length == 0
                ? Set.of()
                : Arrays.stream(flags.getUserFlags())
                        .map(k -> k.toLowerCase(Locale.ROOT))
                        .collect(Collectors.toSet());
    }

    private static Map<Long, List<Attachment>> structures(IMAPProtocol protocol, List<Long> uids)
            throws ProtocolException {
        Map<Long, List<Attachment>> found = new HashMap<>();
        for (Response r : ask(protocol, "UID FETCH " + UidSets.text(uids) + " (UID BODYSTRUCTURE)")) {
            if (r instanceof FetchResponse f && f.getItem(UID.class) != null) {
                List<Attachment> attachments = new ArrayList<>();
                Structures.collect(f.getItem(BODYSTRUCTURE.class), attachments, 0);
                found.put(f.getItem(UID.class).uid, attachments);
            }
        }
        return found;
    }

    private static List<Message> withAttachments(List<Message> messages, Map<Long, List<Attachment>> found) {
        return messages.stream()
                .map(m -> found.containsKey(m.uid())
                        ? new Message(m.uid(), m.received(), m.bytes(), found.get(m.uid()), m.keywords(), m.more())
                        : m)
                .toList();
    }

    private static Response[] ask(IMAPProtocol protocol, String command) throws ProtocolException {
        Response[] answers = protocol.command(command, null);
        protocol.notifyResponseHandlers(answers);
        protocol.handleResult(answers[answers.length - 1]);
        return answers;
    }

    @SuppressWarnings("unchecked")
    private <T> T command(String name, ProtocolCommand<T> command) {
        try (AbortableSockets.Deadline deadline = sockets.deadline()) {
            return (T) opened(name).doCommand(command::run);
        } catch (MessagingException broken) {
            throw broken("a folder cannot be read", broken);
        }
    }

    private interface ProtocolCommand<T> {
        T run(IMAPProtocol protocol) throws ProtocolException;
    }

    private IMAPFolder opened(String name) throws MessagingException {
        IMAPFolder now = open;
        if (now != null && now.isOpen() && now.getFullName().equals(name)) {
            return now;
        }
        if (now != null && now.isOpen()) {
            now.close(false);
        }
        IMAPFolder folder = (IMAPFolder) store.getFolder(name);
        folder.open(jakarta.mail.Folder.READ_ONLY);
        open = folder;
        checkNumbering(folder);
        return folder;
    }

    private void checkNumbering(IMAPFolder folder) throws MessagingException {
        Long expected = validities.get(folder.getFullName());
        if (expected != null && folder.getUIDValidity() != expected) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE,
                    "the mail server numbered a folder anew in the middle of a run; the next one begins there anew");
        }
    }

    private static SourceTrouble unreachable(AbortableSockets sockets, Exception cause) {
        return SourceTrouble.unreachable(
                WHO, sockets.isLate() ? new SocketTimeoutException("a deadline passed") : cause);
    }

    private SourceTrouble broken(String what, Exception cause) {
        for (Throwable at = cause; at != null; at = at.getCause()) {
            boolean gone = at instanceof IOException
                    || at instanceof ConnectionException
                    || at instanceof FolderClosedException
                    || at instanceof StoreClosedException;
            if (gone) {
                return unreachable(sockets, cause);
            }
        }
        return new SourceTrouble(SourceTrouble.Kind.BROKEN, "the mail server broke off: " + what, cause);
    }

    @Override
    public void close() {
        try {
            store.close();
        } catch (MessagingException alreadyGone) {
            // there is nothing left to close
        }
    }
}
