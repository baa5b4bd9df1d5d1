package jandrel.service.measures;

import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.core.visibility.Viewer;
import jandrel.service.connections.OutgoingMail;
import jandrel.service.connections.ServiceMail;
import jandrel.service.kernel.Loop;
import jandrel.service.kernel.Settings;
import jandrel.service.people.Viewers;
import jandrel.store.measures.KeptFigures;
import jandrel.store.measures.KeptFigures.Kept;
import jandrel.store.people.People;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Sends kept selections on Monday mornings to who wants that. Each goes once a week, whichever node sends it. */
@Component
class WeeklyFigures extends Loop {
    private static final Logger LOG = LoggerFactory.getLogger(WeeklyFigures.class);
    private static final long PAUSE_MILLIS = 30_000;
    private final KeptFigures kept;
    private final MeasureAnswers answers;
    private final Viewers viewers;
    private final People people;
    private final ServiceMail letters;
    private final OutgoingMail post;
    private final Settings settings;
    private final TransactionTemplate transactions;
    private final Clock clock;
    private final Semaphore ending = new Semaphore(0);

    WeeklyFigures(
            KeptFigures kept,
            MeasureAnswers answers,
            Viewers viewers,
            People people,
            ServiceMail letters,
            OutgoingMail post,
            Settings settings,
            TransactionTemplate transactions,
            Clock clock) {
        super("weekly-figures");
        this.kept = kept;
        this.answers = answers;
        this.viewers = viewers;
        this.people = people;
        this.letters = letters;
        this.post = post;
        this.settings = settings;
        this.transactions = transactions;
        this.clock = clock;
    }

    @Override
    protected void turn() throws InterruptedException {
        if (post.isThere()) {
            Instant now = clock.instant();
            kept.weekly().forEach(k -> attempt(k, now));
        }
        ending.tryAcquire(PAUSE_MILLIS, TimeUnit.MILLISECONDS);
    }

    /** What cannot be said to one is said to the others. */
    private void attempt(Kept k, Instant now) {
        LocalDate monday = MondayMornings.last(now, ZoneId.of(k.zone()));
        LocalDate told = k.told();
        if (told != null && !told.isBefore(monday)) {
            return;
        }
        try {
            viewers.of(k.signIn()).ifPresent(viewer -> send(k, viewer, monday, now));
        } catch (RuntimeException failed) {
            LOG.error("the kept figures {} could not be sent", k.id(), failed);
        }
    }

    private void send(Kept k, Viewer viewer, LocalDate monday, Instant now) {
        String to = people.mailTo(viewer.person());
        if (to.isEmpty()) {
            return;
        }
        MeasureSheet sheet = answers.sheet(MeasureQuery.of(KeptCalls.query(k)).of(k.measure(), now), viewer);
        String text = FigureText.of(sheet) + "\r\n" + settings.publicUrl() + "/measures?" + address(k) + "\r\n";
        // the claim and the letter stand together, or neither does
        transactions.executeWithoutResult(t -> {
            if (kept.claim(k.id(), monday) > 0) {
                letters.send(to, "Jandrel: " + k.name(), text, "kept figures " + k.id());
            }
        });
    }

    private static String address(Kept k) {
        String query = KeptCalls.query(k).entrySet().stream()
                .filter(e -> !e.getKey().equals("zone"))
                .map(e -> "&" + e.getKey() + "=" + URLEncoder.encode(e.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining());
        return "measure=" + k.measure() + query;
    }

    @Override
    protected void wake() {
        ending.release();
    }
}
