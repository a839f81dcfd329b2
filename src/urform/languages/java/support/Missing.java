package PACKAGE;

import java.util.ArrayList;
import java.util.List;

/** Collects the required fields that were not given, to refuse all of them at once. */
final class Missing {
    private final Object owner; // a name, or the class that bears it
    private List<String> fields; // null as long as nothing is missing

    Missing(String owner) {
        this.owner = owner;
    }

    Missing(Class<?> owner) {
        this.owner = owner;
    }

    Missing unless(String field, Object value) {
        if (value == null) {
            if (fields == null) {
                fields = new ArrayList<>();
            }
            fields.add(field);
        }
        return this;
    }

    void refuse() {
        if (fields != null) {
            String name = owner instanceof Class<?> made ? made.getSimpleName() : owner.toString();
            throw new CreationException.MissingFields(name, fields);
        }
    }

    /** The value, unless something is missing. */
    <T> T orElse(T value) {
        refuse();
        return value;
    }
}
