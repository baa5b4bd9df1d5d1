package jandrel.service.contacts;

import jandrel.sources.AddressBookServer;
import jandrel.sources.DavChanges;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** A server with one address book that keeps its cards to the byte, and fails once where it is told to. */
final class BookInMemory implements AddressBookServer {
    /** What befalls the next write. */
    enum Fault {
        NONE,
        LOST_BEFORE,
        LOST_AFTER,
        OVERTAKEN
    }

    private final AddressBook book;
    private final Map<String, DavObject> cards = new TreeMap<>();
    private final List<String> news = new ArrayList<>();
    private int tags;
    private int forgotten;
    Fault fault = Fault.NONE;
    Runnable overtakes = () -> {};
    int writes;
    /** Before cards are given. */
    Runnable reads = () -> {};

    BookInMemory(String href) {
        book = new AddressBook(href, "People", true, true);
    }

    /** What its owner's own program does. */
    void own(String name, byte @Nullable [] card) {
        String href = book.href() + name;
        news.add(href);
        if (card == null) {
            cards.remove(href);
        } else {
            cards.put(href, new DavObject(href, "t" + ++tags, card));
        }
    }

    Collection<DavObject> all() {
        return List.copyOf(cards.values());
    }

    /** All tokens that it gave are worth nothing any more. */
    void forgetTokens() {
        forgotten = news.size();
    }

    @Override
    public List<AddressBook> books() {
        return List.of(book);
    }

    @Override
    public DavChanges changes(AddressBook asked, String token) {
        String now = String.valueOf(news.size());
        if (token.isEmpty() || Integer.parseInt(token) < forgotten) {
            return new DavChanges(now, List.copyOf(cards.keySet()), List.of(), true);
        }
        List<String> since = news.subList(Integer.parseInt(token), news.size()).stream()
                .distinct()
                .toList();
        return new DavChanges(
                now,
                since.stream().filter(cards::containsKey).toList(),
                since.stream().filter(href -> !cards.containsKey(href)).toList(),
                false);
    }

    @Override
    public List<DavObject> objects(String collection, Collection<String> hrefs) {
        reads.run();
        return hrefs.stream().map(cards::get).filter(Objects::nonNull).toList();
    }

    @Override
    public boolean put(String href, byte[] object, @Nullable String tag) {
        return written(href, object, tag);
    }

    @Override
    public boolean delete(String href, String tag) {
        return written(href, null, tag);
    }

    private boolean written(String href, byte @Nullable [] object, @Nullable String tag) {
        writes++;
        Fault now = fault;
        fault = Fault.NONE;
        if (now == Fault.LOST_BEFORE) {
            throw noAnswer();
        }
        if (now == Fault.OVERTAKEN) {
            overtakes.run();
        }
        DavObject there = cards.get(href);
        if (!Objects.equals(there == null ? null : there.tag(), tag)) {
            return false;
        }
        own(href.substring(book.href().length()), object);
        if (now == Fault.LOST_AFTER) {
            throw noAnswer();
        }
        return true;
    }

    private static SourceTrouble noAnswer() {
        return new SourceTrouble(SourceTrouble.Kind.UNREACHABLE, "the server does not answer");
    }

    @Override
    public String make(String name) {
        throw new UnsupportedOperationException();
    }

    @Override
    public void close() {
        // there is nothing to close
    }
}
