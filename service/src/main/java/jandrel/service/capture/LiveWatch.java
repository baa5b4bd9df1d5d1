package jandrel.service.capture;

import jandrel.service.connections.ServerBack;
import jandrel.service.connections.Servers;
import jandrel.service.connections.Servers.Opened;
import jandrel.service.connections.SyncScheduler;
import jandrel.sources.LiveMail;
import jandrel.sources.MailboxListener;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Watching;
import jandrel.store.connections.Watching.Watched;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Listens to mailboxes, so that what arrives is looked at at once. Where that is not possible the policy's rhythm alone counts. The
 * nodes share the mailboxes among them by the database.
 */
@Component
// what fails is heard of elsewhere: by the channel, the next turn, or not at all on purpose
@SuppressWarnings("FutureReturnValueIgnored")
class LiveWatch implements SmartLifecycle {
    private static final Logger LOG = LoggerFactory.getLogger(LiveWatch.class);
    private static final Duration TICK = Duration.ofSeconds(2);
    private static final Duration FIRST_WAIT = Duration.ofSeconds(5);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(2);
    private static final Duration REFUSED_WAIT = Duration.ofMinutes(30);
    private static final int MOST_AT_ONCE = 500;
    /** Servers gather changes for a moment; what comes within this is one piece of news. */
    private static final long GATHER_MILLIS = 2;

    private final Watching watching;
    private final Servers servers;
    private final SyncScheduler looks;
    private final Clock clock;
    private final String node = UUID.randomUUID().toString();
    private final Map<UUID, Open> open = new ConcurrentHashMap<>();
    private final Map<UUID, Patience> patience = new ConcurrentHashMap<>();
    private final Set<UUID> newsOf = ConcurrentHashMap.newKeySet();
    private LiveMail live = new LiveMail();
    private ScheduledExecutorService ticking = Executors.newSingleThreadScheduledExecutor();
    private ExecutorService opening = Executors.newFixedThreadPool(4);
    private volatile boolean running;

    private record Open(List<String> folders, List<LiveMail.Watch> watches) {
        void close() {
            watches.forEach(LiveMail.Watch::close);
        }
    }

    /**
     * How long one that failed is left alone.
     *
     * @param cannot because of what only somebody can change
     */
    private record Patience(int failures, Instant until, boolean cannot) {}

    LiveWatch(Watching watching, Servers servers, SyncScheduler looks, Clock clock) {
        this.watching = watching;
        this.servers = servers;
        this.looks = looks;
        this.clock = clock;
    }

    @Override
    public void start() {
        live = new LiveMail();
        ticking = Executors.newSingleThreadScheduledExecutor(r -> daemon(r, "live watch"));
        opening = Executors.newFixedThreadPool(4, r -> daemon(r, "live open"));
        running = true;
        ticking.scheduleWithFixedDelay(this::tick, 500, TICK.toMillis(), TimeUnit.MILLISECONDS);
    }

    private void tick() {
        try {
            watching.here(node);
            share();
            Map<UUID, List<String>> wanted = new HashMap<>();
            for (Watched watched : watching.of(node)) {
                wanted.put(watched.connection(), List.of(watched.folders()));
            }
            open.forEach((id, is) -> {
                if (!is.folders().equals(wanted.get(id))) {
                    end(id);
                }
            });
            wanted.forEach(this::openWhereDue);
            patience.keySet().retainAll(wanted.keySet());
        } catch (RuntimeException failed) {
            LOG.error("listening to mailboxes could not be looked after; it is tried again", failed);
        }
    }

    /** As many as the other nodes: what is beyond that is theirs. */
    private void share() {
        int nodes = Math.max(1, watching.nodes());
        int fair = (watching.all() + nodes - 1) / nodes;
        int mine = watching.of(node).size();
        if (mine > fair) {
            watching.giveAway(node, mine - fair);
        } else if (mine < fair) {
            for (UUID taken : watching.take(node, Math.min(MOST_AT_ONCE, fair - mine))) {
                // one that was taken away and comes back between two looks is begun anew
                end(taken);
                patience.remove(taken);
            }
        }
    }

    private void openWhereDue(UUID id, List<String> folders) {
        Patience waits = patience.get(id);
        if (!open.containsKey(id) && (waits == null || !clock.instant().isBefore(waits.until()))) {
            // its place is kept, so that no other tick opens it too
            open.put(id, new Open(folders, List.of()));
            opening.execute(() -> listen(id, folders));
        }
    }

    private void listen(UUID id, List<String> folders) {
        try {
            Optional<Opened> opened = servers.forListening(id);
            if (opened.isEmpty()) {
                open.remove(id);
                return;
            }
            Opened o = opened.get();
            List<LiveMail.Watch> watches = new ArrayList<>(2);
            // the inbox by itself: a server that tells of several folders takes half a second longer to tell of any
            for (List<String> some : List.of(folders.subList(0, 1), folders.subList(1, folders.size()))) {
                if (!some.isEmpty()) {
                    watches.add(live.watch(o.endpoint(), o.account(), o.trust(), some, new Heard(id)));
                }
            }
            if (open.computeIfPresent(id, (i, kept) -> new Open(folders, List.copyOf(watches))) == null) {
                // it was lost, or left to another, while it was being opened
                watches.forEach(LiveMail.Watch::close);
            }
        } catch (SourceTrouble trouble) {
            lost(id, trouble);
        } catch (RuntimeException failed) {
            LOG.error("connection {} could not be listened to", id, failed);
            lost(id, new SourceTrouble(SourceTrouble.Kind.BROKEN, "something went wrong here", failed));
        }
    }

    private final class Heard implements MailboxListener {
        private final UUID id;

        Heard(UUID id) {
            this.id = id;
        }

        @Override
        public void listening() {
            patience.remove(id);
            in(0, () -> {
                watching.live(id, node, true);
                looks.news(id);
            });
        }

        @Override
        public void news() {
            if (newsOf.add(id)) {
                in(GATHER_MILLIS, () -> {
                    newsOf.remove(id);
                    looks.news(id);
                });
            }
        }

        @Override
        public void lost(SourceTrouble why) {
            in(0, () -> LiveWatch.this.lost(id, why));
        }
    }

    private void in(long millis, Runnable work) {
        if (running) {
            ticking.schedule(
                    () -> {
                        try {
                            work.run();
                        } catch (RuntimeException failed) {
                            LOG.error("news of a mailbox could not be passed on; its next look finds them", failed);
                        }
                    },
                    millis,
                    TimeUnit.MILLISECONDS);
        }
    }

    @EventListener
    void back(ServerBack server) {
        LOG.debug("server {} is back", server.server());
        in(0, () -> {
            // those at other servers are tried once too often, which costs little
            patience.values().removeIf(p -> !p.cannot());
            tick();
        });
    }

    /** A look at once finds out what is wrong; then it is left alone for longer each time. */
    private void lost(UUID id, SourceTrouble why) {
        Open was = open.remove(id);
        if (was == null) {
            // the other of its two connections told already
            return;
        }
        was.close();
        int failures =
                Optional.ofNullable(patience.get(id)).map(Patience::failures).orElse(0) + 1;
        boolean cannot = why.kind() == SourceTrouble.Kind.REFUSED;
        Duration doubled = FIRST_WAIT.multipliedBy(1L << Math.min(failures - 1, 10));
        Duration wait = cannot ? REFUSED_WAIT : doubled.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : doubled;
        patience.put(id, new Patience(failures, clock.instant().plus(wait), cannot));
        LOG.info("connection {} is not listened to: {}", id, why.getMessage());
        watching.live(id, node, false);
        if (!cannot && failures == 1) {
            looks.news(id);
        }
    }

    private void end(UUID id) {
        Open is = open.remove(id);
        if (is != null) {
            is.close();
            watching.live(id, node, false);
        }
    }

    private static Thread daemon(Runnable work, String name) {
        Thread thread = new Thread(work, name);
        thread.setDaemon(true);
        return thread;
    }

    @Override
    public void stop() {
        running = false;
        ticking.shutdownNow();
        opening.shutdownNow();
        live.close();
        open.clear();
        try {
            watching.leave(node);
            watching.gone(node);
        } catch (RuntimeException gone) {
            LOG.info("the database did not hear that this node stops; the others find out by themselves");
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
