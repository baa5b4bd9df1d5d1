package jandrel.store.directory;

import jandrel.store.kernel.FileImport;
import java.util.Set;

/** A record as the directory has it, or shall have it. Columns are named as in its file. */
interface DirectoryState<S extends DirectoryState<S>> extends FileImport.State {
    /** The columns that somebody set here, sorted. */
    String[] byHand();

    /** This, but for the columns that stay as they were. */
    S keeping(S was, Set<String> keep);

    /** Whether nothing of it is another by which mail and meetings are decided. */
    default boolean decidesAs(S was) {
        return false;
    }

    /** This, with other columns set by hand. */
    S marked(String[] marks);
}
