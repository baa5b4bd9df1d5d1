package jandrel.service.timeline;

import jandrel.store.News;
import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArraySet;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Tells open pages which timelines have changed (server-sent events, HTML Living Standard §9.2): ids of records, never what is on
 * them. A page asks for what it shows again, and gets what its reader may see.
 */
@RestController
class ChangeCalls implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(ChangeCalls.class);
    private static final int WAIT = 1_000;
    private static final int BREATH = 15;
    private static final int MOST_OPEN = 2_000;
    private static final long OPEN_MILLIS = 30 * 60_000L;
    private final News news;
    private final Set<SseEmitter> open = new CopyOnWriteArraySet<>();
    private volatile @Nullable Thread listener;

    ChangeCalls(News news) {
        this.news = news;
    }

    @GetMapping(path = "/api/changes", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    SseEmitter changes() throws IOException {
        SseEmitter emitter = new SseEmitter(OPEN_MILLIS);
        emitter.onCompletion(() -> open.remove(emitter));
        emitter.onTimeout(emitter::complete);
        emitter.onError(e -> open.remove(emitter));
        if (open.size() >= MOST_OPEN) {
            emitter.complete();
            return emitter;
        }
        open.add(emitter);
        emitter.send(SseEmitter.event().comment("open").reconnectTime(5_000));
        return emitter;
    }

    private void run() {
        while (listener == Thread.currentThread()) {
            try (News.Listening listening = news.listen()) {
                for (int quiet = 0; listener == Thread.currentThread(); ) {
                    List<String> heard = listening.next(WAIT);
                    heard.forEach(
                            words -> tell(SseEmitter.event().name("timelines").data(words)));
                    quiet = heard.isEmpty() ? quiet + 1 : 0;
                    if (quiet >= BREATH) {
                        // finds out who has gone, and keeps what stands between from closing the connection
                        tell(SseEmitter.event().comment("quiet"));
                        quiet = 0;
                    }
                }
            } catch (SQLException broken) {
                // a service that stops closes what it listens on
                if (listener == Thread.currentThread()) {
                    LOG.warn("the database tells no news; listening again", broken);
                    pause();
                }
            }
        }
    }

    private static void pause() {
        try {
            Thread.sleep(WAIT);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    private void tell(SseEmitter.SseEventBuilder event) {
        var data = event.build();
        for (SseEmitter emitter : open) {
            try {
                emitter.send(data);
            } catch (IOException | IllegalStateException gone) {
                open.remove(emitter);
            }
        }
    }

    @Override
    public void start() {
        Thread thread = new Thread(this::run, "timeline-news");
        thread.setDaemon(true);
        listener = thread;
        thread.start();
    }

    @Override
    public void stop() {
        Thread thread = listener;
        listener = null;
        open.forEach(SseEmitter::complete);
        if (thread != null) {
            thread.interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return listener != null;
    }

    /** Before the web server waits for open answers to end. */
    @Override
    public int getPhase() {
        return Integer.MAX_VALUE;
    }
}
