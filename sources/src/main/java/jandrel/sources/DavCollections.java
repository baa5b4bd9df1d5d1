package jandrel.sources;

import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What calendars and address books have in common. */
abstract class DavCollections implements CollectionServer {
    final WebDav dav;
    private final WebDav.Objects objects;
    private final String type;

    /** @param type of an object that is written (RFC 9110 §8.3) */
    DavCollections(WebDav dav, WebDav.Objects objects, String type) {
        this.dav = dav;
        this.objects = objects;
        this.type = type;
    }

    @Override
    public List<DavObject> objects(String collection, Collection<String> hrefs) {
        return dav.objects(objects, collection, hrefs);
    }

    @Override
    public boolean put(String href, byte[] object, @Nullable String tag) {
        return dav.put(href, type, object, tag);
    }

    @Override
    public boolean delete(String href, String tag) {
        return dav.delete(href, tag);
    }

    @Override
    public void close() {
        // connections are kept for whoever asks the same server next
    }
}
