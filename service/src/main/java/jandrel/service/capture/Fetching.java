package jandrel.service.capture;

import jandrel.core.item.Content.Attachment;
import jandrel.core.item.Item;
import jandrel.formats.mail.Attached;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** Fetches items for a purpose, and keeps nothing of them. */
@Component
public class Fetching {
    private final Capture capture;

    Fetching(Capture capture) {
        this.capture = capture;
    }

    /** By position; what cannot be fetched is missing. */
    public Map<String, Item> items(int source, List<String> positions) {
        return capture.items(source, positions);
    }

    /** What a message has attached; nothing when its mailbox has it no longer, or cannot be asked. */
    public Optional<byte[]> attachment(int source, String position, Attachment wanted) {
        return capture.whole(source, position).flatMap(message -> Attached.of(message, wanted));
    }
}
