package jandrel.core.timeline;

import jandrel.core.decide.Link;
import jandrel.core.decide.Reason;
import jandrel.core.item.Item;
import jandrel.core.visibility.Readers;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/**
 * What stands on timelines for copies that are one item.
 *
 * @param id of the activity
 * @param faces never empty; the first is of the copy of highest standing
 * @param owners whose sources showed it, as far as all may know, in order of their ids
 * @param insiders the people of ours who are on it
 */
public record Activity(UUID id, List<Face> faces, List<Link> links, List<UUID> owners, Set<UUID> insiders) {
    public Activity {
        faces = List.copyOf(faces);
    }

    public Item item() {
        return faces.get(0).item();
    }

    public Readers readers() {
        return faces.get(0).readers();
    }

    public List<Reason> trail() {
        return faces.get(0).trail();
    }

    /** Whether one of its copies is a copy of the other. */
    public boolean hasCopyOf(Activity other) {
        Set<UUID> copies = copies();
        return other.copies().stream().anyMatch(copies::contains);
    }

    private Set<UUID> copies() {
        Set<UUID> copies = new HashSet<>();
        faces.forEach(face -> copies.addAll(face.copies()));
        return copies;
    }

    /** All who brought a copy of it. */
    public Set<UUID> people() {
        Set<UUID> people = new TreeSet<>(faces.get(0).mine());
        people.addAll(faces.get(0).elsewhere());
        return people;
    }

    /**
     * The one face that a viewer gets: of the copy that they brought, else the first that they read, else the first.
     *
     * @param ids all that stand for the viewer among readers, of which the person alone can have brought a copy
     */
    public Face faceFor(Set<UUID> ids) {
        return faces.stream()
                .filter(f -> ids.stream().anyMatch(f.mine()::contains))
                .findFirst()
                .or(() -> faces.stream().filter(f -> f.readers().has(ids)).findFirst())
                .orElse(faces.get(0));
    }
}
