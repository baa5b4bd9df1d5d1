package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectParameters;
import com.github.mangstadt.vinnie.VObjectProperty;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** A component as it stands in the file: its properties in order, its children. */
record Component(String name, List<VObjectProperty> properties, List<Component> children) {
    Component(String name) {
        this(name, new ArrayList<>(), new ArrayList<>());
    }

    Optional<VObjectProperty> first(String property) {
        return properties.stream()
                .filter(p -> p.getName().equalsIgnoreCase(property))
                .findFirst();
    }

    List<VObjectProperty> all(String property) {
        return properties.stream()
                .filter(p -> p.getName().equalsIgnoreCase(property))
                .toList();
    }

    /** The raw value, or an empty text. */
    String value(String property) {
        return first(property).map(VObjectProperty::getValue).orElse("").strip();
    }

    List<Component> children(String child) {
        return children.stream().filter(c -> c.name().equalsIgnoreCase(child)).toList();
    }

    /** One that can be changed without changing this. */
    Component copy() {
        Component copy = new Component(name);
        properties.forEach(p -> copy.properties().add(copy(p)));
        children.forEach(c -> copy.children().add(c.copy()));
        return copy;
    }

    static VObjectProperty copy(VObjectProperty property) {
        VObjectProperty copy = new VObjectProperty(
                property.getGroup(),
                property.getName(),
                new VObjectParameters(property.getParameters()),
                property.getValue());
        return property instanceof RawProperty raw && raw.unchanged().isPresent()
                ? new RawProperty(copy, raw.unchanged().get())
                : copy;
    }
}
