package jandrel.service.capture;

import jandrel.core.item.Content.Attachment;
import jandrel.core.item.Item;
import jandrel.formats.mail.Attached;
import jandrel.service.kernel.Refusal;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;

/** Fetches items for a purpose, and keeps nothing of them. */
@Component
public class Fetching {
    private static final int MOST_AT_ONCE = 3;
    private static final int PATIENCE_SECONDS = 20;
    private final Semaphore room = new Semaphore(MOST_AT_ONCE, true);
    private final Set<UUID> asking = ConcurrentHashMap.newKeySet();
    private final Capture capture;

    Fetching(Capture capture) {
        this.capture = capture;
    }

    /** By position; what cannot be fetched is missing. */
    public Map<String, Item> items(int source, List<String> positions) {
        return capture.items(source, positions);
    }

    /**
     * Takes what a message has attached. A whole message is in memory meanwhile, so few are taken at once, and by one asker one.
     *
     * @param by who asks
     * @return whether there was any; nothing is taken when its mailbox has it no longer, or cannot be asked
     * @throws Refusal if too many are taken at the moment
     */
    public boolean attachment(UUID by, int source, String position, Attachment wanted, OutputStream to)
            throws IOException {
        if (!asking.add(by)) {
            throw busy("You are already downloading another attachment");
        }
        try {
            if (!room.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
                throw busy("Too many attachments are being downloaded");
            }
            try {
                Optional<byte[]> message = capture.whole(source, position);
                return message.isPresent() && Attached.copy(message.get(), wanted, to);
            } finally {
                room.release();
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw busy("The service is stopping");
        } finally {
            asking.remove(by);
        }
    }

    private static Refusal busy(String why) {
        return Refusal.of(HttpStatus.SERVICE_UNAVAILABLE, why, "Try again in a moment.");
    }
}
