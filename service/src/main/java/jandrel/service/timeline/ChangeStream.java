package jandrel.service.timeline;

import jakarta.servlet.AsyncContext;
import jakarta.servlet.AsyncEvent;
import jakarta.servlet.AsyncListener;
import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.News;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * One open page that hears news (server-sent events, HTML Living Standard §9.2). No thread ever waits for its reader (Jakarta Servlet
 * 6.0, §5.7): what a slow one has not taken yet is put together, and beyond a limit it is only told that much has changed.
 */
final class ChangeStream implements WriteListener, AsyncListener {
    private static final Logger LOG = LoggerFactory.getLogger(ChangeStream.class);
    private static final int MOST_WAITING = 200;
    private static final String MANY = News.MANY;
    private final String session;
    private final String login;
    private final String own;
    private final AsyncContext context;
    private final ServletOutputStream out;
    private final Consumer<ChangeStream> ended;
    private final Set<String> records = new LinkedHashSet<>();
    /** No more of them than the journal knows kinds of things. */
    private final Set<String> kinds = new TreeSet<>();

    private @Nullable String comment = "open";
    private boolean begun;
    private boolean unflushed;
    private boolean closed;

    ChangeStream(
            String session, SignedIn who, AsyncContext context, ServletOutputStream out, Consumer<ChangeStream> ended) {
        this.session = session;
        this.login = who.login();
        this.own = News.OF_SIGN_IN + who.id();
        this.context = context;
        this.out = out;
        this.ended = ended;
    }

    String session() {
        return session;
    }

    String login() {
        return login;
    }

    void begin() {
        context.addListener(this);
        out.setWriteListener(this);
    }

    /** @param words ids of records or the word for many, kinds of things, and sign-ins whose notices have changed */
    synchronized void tell(String words) {
        for (String word : words.split(" ", 0)) {
            if (word.startsWith(News.KIND)) {
                kinds.add(word.substring(News.KIND.length()));
            } else if (word.startsWith(News.OF_SIGN_IN)) {
                if (word.equals(own)) {
                    kinds.add("notice");
                }
            } else if (!records.contains(MANY)) {
                records.add(word);
            }
        }
        if (!records.contains(MANY)) {
            if (records.size() > MOST_WAITING || records.contains(MANY)) {
                records.clear();
                records.add(MANY);
            }
        }
        write();
    }

    /** Finds out who has gone, and keeps what stands between from closing the connection. */
    synchronized void breathe() {
        comment = comment == null ? "quiet" : comment;
        write();
    }

    @Override
    public synchronized void onWritePossible() {
        begun = true;
        write();
    }

    private void write() {
        try {
            while (begun && !closed && out.isReady()) {
                if (unflushed) {
                    unflushed = false;
                    out.flush();
                } else if (comment != null) {
                    String said = comment.equals("open") ? ": open\nretry: 5000\n\n" : ": " + comment + "\n\n";
                    comment = null;
                    send(said);
                } else if (!records.isEmpty()) {
                    String said = "event: timelines\ndata: " + String.join(" ", records) + "\n\n";
                    records.clear();
                    send(said);
                } else if (!kinds.isEmpty()) {
                    String said = "event: things\ndata: " + String.join(" ", kinds) + "\n\n";
                    kinds.clear();
                    send(said);
                } else {
                    return;
                }
            }
        } catch (IOException | IllegalStateException gone) {
            end();
        }
    }

    private void send(String said) throws IOException {
        unflushed = true;
        out.write(said.getBytes(StandardCharsets.UTF_8));
    }

    void end() {
        synchronized (this) {
            if (closed) {
                return;
            }
            closed = true;
        }
        ended.accept(this);
        try {
            context.complete();
        } catch (IllegalStateException over) {
            LOG.trace("the connection had ended", over);
        }
    }

    @Override
    public void onError(Throwable gone) {
        end();
    }

    @Override
    public void onComplete(AsyncEvent event) {
        end();
    }

    @Override
    public void onTimeout(AsyncEvent event) {
        end();
    }

    @Override
    public void onError(AsyncEvent event) {
        end();
    }

    @Override
    public void onStartAsync(AsyncEvent event) {
        // it is never started again
    }
}
