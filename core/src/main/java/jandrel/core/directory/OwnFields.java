package jandrel.core.directory;

import jandrel.core.directory.DirectoryFile.Column;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The fields of contacts that the company made for itself, in its order. */
public record OwnFields(List<OwnField> all) {
    public static final OwnFields NONE = new OwnFields(List.of());

    public OwnFields {
        all = List.copyOf(all);
    }

    public Optional<OwnField> called(String key) {
        return all.stream().filter(f -> f.key().equals(key)).findFirst();
    }

    /** The columns of a kind of files, with those of its own. */
    public List<Column> columns(DirectoryFile file) {
        if (file != DirectoryFile.CONTACTS || all.isEmpty()) {
            return file.columns();
        }
        List<Column> columns = new ArrayList<>(file.columns());
        all.forEach(f -> columns.add(f.column()));
        return columns;
    }
}
