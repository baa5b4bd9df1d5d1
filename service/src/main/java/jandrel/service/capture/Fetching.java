package jandrel.service.capture;

import jandrel.core.item.Item;
import java.util.List;
import java.util.Map;
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
}
