package jandrel.service.triage;

import jandrel.service.kernel.Refusal;
import jandrel.store.directory.RecordRef;
import jandrel.store.directory.RecordRefs;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The records that choices name, or come to. */
@Component
class Targets {
    private final RecordRefs records;

    Targets(RecordRefs records) {
        this.records = records;
    }

    /** Refused where there is none of that kind. */
    RecordRef of(@Nullable UUID record, String kind) {
        return (record == null ? Optional.<RecordRef>empty() : records.find(record))
                .filter(t -> t.kind().equals(kind))
                .orElseThrow(() -> Refusal.bad("There is no such " + kind, "Choose one that is on record."));
    }

    /** Refused where there is no such record. */
    RecordRef any(@Nullable UUID record) {
        return (record == null ? Optional.<RecordRef>empty() : records.find(record))
                .orElseThrow(() -> Refusal.bad("There is no such record", "Choose one that is on record."));
    }

    /** One that was made just now. */
    RecordRef made(String kind, String key) {
        return records.byKey(kind, key).orElseThrow();
    }
}
