package jandrel.sources;

import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One person's collections of objects at a server. Safe for several threads. Every method may throw {@link SourceTrouble}. */
public interface CollectionServer extends AutoCloseable {
    /** One request; those that have gone in the meantime are not among the answers. */
    List<DavObject> objects(String collection, Collection<String> hrefs);

    /**
     * One request, asked once: when no answer comes, it may or may not have been carried out (RFC 4791 §5.3.2, RFC 6352 §6.3.2).
     *
     * @param tag of the state that is written over; null if there must be none yet
     * @return false if the object is in another state by now
     */
    boolean put(String href, byte[] object, @Nullable String tag);

    /** Likewise. */
    boolean delete(String href, String tag);

    /**
     * Makes a collection (RFC 4791 §5.3.1, RFC 6352 §6.3.1).
     *
     * @return its href
     */
    String make(String name);

    @Override
    void close();
}
