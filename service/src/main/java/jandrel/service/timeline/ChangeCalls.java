package jandrel.service.timeline;

import io.swagger.v3.oas.annotations.Parameter;
import jakarta.servlet.AsyncContext;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.constraints.PositiveOrZero;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.Sessions;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.News;
import java.io.IOException;
import java.sql.SQLException;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.dao.DataAccessException;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * Tells open pages what has changed (server-sent events, HTML Living Standard §9.2): ids of records whose timelines have, and kinds of
 * things that the journal tells of; never what is on them. A page asks for what it shows again, and gets what its reader may see.
 */
@RestController
class ChangeCalls implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(ChangeCalls.class);
    private static final int WAIT = 1_000;
    private static final int BREATH = 15;
    private static final int MOST_OPEN = 2_000;
    private static final int MOST_OF_ONE = 20;
    private static final long OPEN_MILLIS = 30 * 60_000L;
    private final News news;
    private final Sessions sessions;
    /** In the order in which they were opened. */
    private final Set<ChangeStream> open = Collections.synchronizedSet(new LinkedHashSet<>());

    private final RecentNews recent = new RecentNews(System::nanoTime);

    private volatile @Nullable Thread listener;

    ChangeCalls(News news, Sessions sessions) {
        this.news = news;
        this.sessions = sessions;
    }

    /** @param ago how many milliseconds ago the page began to ask for what it shows: what changed since then is told first */
    @GetMapping(path = "/api/changes", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
    void changes(
            @Parameter(hidden = true) HttpServletRequest request,
            @Parameter(hidden = true) HttpServletResponse response,
            @RequestParam(defaultValue = "0") @PositiveOrZero long ago,
            @AuthenticationPrincipal SignedIn me)
            throws IOException {
        if (open.size() >= MOST_OPEN) {
            throw Refusal.of(
                    HttpStatus.SERVICE_UNAVAILABLE, "Too many pages are open", "Reload the page now and then instead.");
        }
        response.setContentType(MediaType.TEXT_EVENT_STREAM_VALUE);
        response.setCharacterEncoding("UTF-8");
        AsyncContext context = request.startAsync();
        context.setTimeout(OPEN_MILLIS);
        ChangeStream stream =
                new ChangeStream(sessions.key(request), me, context, response.getOutputStream(), open::remove);
        open.add(stream);
        recent.ofLast(ago).forEach(stream::tell);
        stream.begin();
        // somebody who opens ever more pages loses the oldest
        List<ChangeStream> theirs =
                all().stream().filter(s -> s.login().equals(me.login())).toList();
        theirs.subList(0, Math.max(0, theirs.size() - MOST_OF_ONE)).forEach(ChangeStream::end);
    }

    private List<ChangeStream> all() {
        synchronized (open) {
            return List.copyOf(open);
        }
    }

    private void run() {
        while (listener == Thread.currentThread()) {
            try (News.Listening listening = news.listen()) {
                recent.begin();
                // nobody knows what was told while nobody listened
                tell(List.of(RecentNews.ALL));
                for (int quiet = 0; listener == Thread.currentThread(); ) {
                    List<String> heard = listening.next(WAIT);
                    if (!heard.isEmpty()) {
                        recent.add(heard);
                        tell(heard);
                    }
                    quiet = heard.isEmpty() ? quiet + 1 : 0;
                    if (quiet >= BREATH) {
                        ofOpenSessions().forEach(ChangeStream::breathe);
                        quiet = 0;
                    }
                }
            } catch (SQLException | DataAccessException broken) {
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

    private void tell(List<String> heard) {
        for (ChangeStream stream : ofOpenSessions()) {
            heard.forEach(stream::tell);
        }
    }

    /** Those whose session has ended are ended, too. */
    private List<ChangeStream> ofOpenSessions() {
        List<ChangeStream> all = all();
        Set<String> still =
                sessions.open(all.stream().map(ChangeStream::session).distinct().toList());
        all.stream().filter(s -> !still.contains(s.session())).forEach(ChangeStream::end);
        return all.stream().filter(s -> still.contains(s.session())).toList();
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
        all().forEach(ChangeStream::end);
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
