package jandrel.store.capture;

import jandrel.core.item.Content;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.Face;
import jandrel.store.kernel.Async;
import jandrel.store.kernel.CopyRows;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * The texts of one batch's items. Each distinct text of an item is kept once, by a name that follows from what it says, so that no copy
 * can replace what another says.
 */
final class Texts {
    static final String HERE = "here";
    static final String WANTED = "wanted";
    static final String GONE = "gone";

    private final ItemKeys keys;
    private final Map<UUID, UUID> known = new HashMap<>();
    private final Set<UUID> gone = new HashSet<>();
    private final Map<UUID, Named> made = new HashMap<>();

    private record Named(UUID item, Supplier<Content> content, Supplier<UUID> name) {}

    Texts(ItemKeys keys, List<RecordMapper.FaceRow> before) {
        this.keys = keys;
        for (RecordMapper.FaceRow face : before) {
            for (UUID copy : face.copies()) {
                if (face.content() != null) {
                    known.put(copy, face.content());
                } else if (face.text().equals(GONE)) {
                    gone.add(copy);
                }
            }
        }
    }

    void made(UUID copy, UUID item, Supplier<Content> content) {
        made.put(copy, new Named(item, content, Async.made(() -> keys.content(item, content.get()))));
    }

    /** The name of a copy's text; waits for one that is in the making. Null where the text is not known. */
    @Nullable
    UUID of(UUID copy) {
        Named fresh = made.get(copy);
        return fresh == null ? known.get(copy) : fresh.name().get();
    }

    @Nullable
    UUID of(Face face) {
        return face.content() != null || face.copies().size() > 1
                ? face.content()
                : of(face.copies().iterator().next());
    }

    /** @return {@code here}, {@code wanted} or {@code gone} */
    String state(Face face, @Nullable UUID content) {
        return content != null ? HERE : gone.containsAll(face.copies()) ? GONE : WANTED;
    }

    /** Writes what is at hand, keeps what still fits, asks for the rest, and lets go of what no longer stands anywhere. */
    void write(
            UUID[] touched,
            Map<UUID, List<Activity>> activities,
            boolean stood,
            RecordMapper mapper,
            Connection connection)
            throws SQLException {
        Set<RecordMapper.BodyKey> kept = stood ? new HashSet<>(mapper.bodies(touched)) : Set.of();
        Set<RecordMapper.BodyKey> standing = new HashSet<>();
        List<UUID> wanted = new ArrayList<>();
        CopyRows rows = new CopyRows();
        for (Map.Entry<UUID, List<Activity>> entry : activities.entrySet()) {
            for (Activity activity : entry.getValue()) {
                for (Face face : activity.faces()) {
                    UUID name = of(face);
                    if (name == null) {
                        if (state(face, null).equals(WANTED)) {
                            wanted.addAll(face.copies());
                        }
                        continue;
                    }
                    RecordMapper.BodyKey key = new RecordMapper.BodyKey(entry.getKey(), name);
                    if (standing.add(key) && !kept.contains(key)) {
                        row(key, face, rows);
                    }
                }
            }
        }
        List<RecordMapper.BodyKey> leftOver =
                kept.stream().filter(k -> !standing.contains(k)).toList();
        if (!leftOver.isEmpty()) {
            mapper.deleteBodies(
                    leftOver.stream().map(RecordMapper.BodyKey::item).toArray(UUID[]::new),
                    leftOver.stream().map(RecordMapper.BodyKey::content).toArray(UUID[]::new));
        }
        rows.into(connection, "body (item, content, text, html, attachments)");
        if (!wanted.isEmpty()) {
            mapper.wantTexts(wanted.toArray(UUID[]::new));
        }
    }

    private void row(RecordMapper.BodyKey key, Face face, CopyRows rows) {
        Content content = face.copies().stream()
                .map(made::get)
                .filter(Objects::nonNull)
                .map(named -> Objects.requireNonNull(named).content().get())
                .findFirst()
                .orElse(Content.EMPTY);
        rows.cell(key.item()).cell(key.content()).cell(content.text()).cell(content.html());
        rows.cell(Json.write(content.attachments())).endRow();
    }
}
