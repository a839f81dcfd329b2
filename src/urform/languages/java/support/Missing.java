package PACKAGE;

import java.util.ArrayList;
import java.util.List;

/** Collects the required fields that were not given, to refuse all of them at once. */
final class Missing {
    private final String owner;
    private final List<String> fields = new ArrayList<>(0);

    Missing(String owner) {
        this.owner = owner;
    }

    Missing unless(String field, Object value) {
        if (value == null) {
            fields.add(field);
        }
        return this;
    }

    void refuse() {
        if (!fields.isEmpty()) {
            throw new CreationException.MissingFields(owner, fields);
        }
    }

    /** The value, unless something is missing. */
    <T> T orElse(T value) {
        refuse();
        return value;
    }
}
