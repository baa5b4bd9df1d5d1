package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectParameters;
import com.github.mangstadt.vinnie.VObjectProperty;
import java.util.Optional;

/** A property as its file has it, which is written back to the letter unless it was changed. */
final class RawProperty extends VObjectProperty {
    private final String line;
    private final VObjectProperty read;

    /** @param line unfolded */
    RawProperty(VObjectProperty property, String line) {
        super(
                property.getGroup(),
                property.getName(),
                new VObjectParameters(property.getParameters()),
                property.getValue());
        this.line = line;
        this.read = property;
    }

    /** The line; nothing once it says something else. */
    Optional<String> unchanged() {
        return read.equals(new VObjectProperty(getGroup(), getName(), getParameters(), getValue()))
                ? Optional.of(line)
                : Optional.empty();
    }
}
