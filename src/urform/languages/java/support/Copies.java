package PACKAGE;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Containers of copies: of what products hold, and of what builders are given. */
final class Copies {
    private Copies() {}

    /** A list of copies; what is held has no null in it. */
    static <T> List<T> ofList(List<T> held, UnaryOperator<T> copy) {
        List<T> own = new ArrayList<>(held.size());
        for (T value : held) {
            own.add(copy.apply(value));
        }
        return Collections.unmodifiableList(own);
    }

    /** A map of copies, in the same order. */
    static <K, V> Map<K, V> ofMap(Map<K, V> held, UnaryOperator<V> copy) {
        Map<K, V> own = new LinkedHashMap<>();
        held.forEach((key, value) -> own.put(key, copy.apply(value)));
        return Collections.unmodifiableMap(own);
    }

    /** A builder's own list; null, and null within, are kept for the build to refuse. */
    static <T> List<T> list(List<T> given) {
        return given == null ? null : new ArrayList<>(given);
    }

    static <T> List<T> list(List<T> given, UnaryOperator<T> copy) {
        if (given == null) {
            return null;
        }
        List<T> own = new ArrayList<>(given.size());
        for (T value : given) {
            own.add(value == null ? null : copy.apply(value));
        }
        return own;
    }

    static <T> Set<T> set(Collection<T> given) {
        return given == null ? null : new LinkedHashSet<>(given);
    }

    static <K, V> Map<K, V> map(Map<K, V> given) {
        return given == null ? null : new LinkedHashMap<>(given);
    }

    static <K, V> Map<K, V> map(Map<K, V> given, UnaryOperator<V> copy) {
        if (given == null) {
            return null;
        }
        Map<K, V> own = new LinkedHashMap<>();
        for (Map.Entry<K, V> entry : given.entrySet()) {
            V value = entry.getValue();
            own.put(entry.getKey(), value == null ? null : copy.apply(value));
        }
        return own;
    }
}
