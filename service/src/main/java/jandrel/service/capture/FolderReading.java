package jandrel.service.capture;

import jandrel.sources.Mailbox.Extent;
import jandrel.store.capture.SourceRef;

/**
 * A folder that is being read.
 *
 * @param choices what the person's keywords mean
 */
record FolderReading(SourceRef place, Extent extent, Choices choices) {
    FolderReading as(Extent now) {
        return new FolderReading(place, now, choices);
    }
}
