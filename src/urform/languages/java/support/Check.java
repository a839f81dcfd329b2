package PACKAGE;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;

/** The limits, and how collections are held. */
final class Check {
    /** The order in which texts are shown: by code point, where String compares UTF-16 units. */
    static final Comparator<String> BY_CODE_POINT =
            (one, other) -> Arrays.compare(codePoints(one), codePoints(other));

    private Check() {}

    static void that(boolean holds, String owner, String field, String limit, Object bound) {
        if (!holds) {
            throw new CreationException.OutOfLimit(owner, field, limit, bound);
        }
    }

    /** A finite number, and never -0.0. */
    static double finite(String owner, String field, String limit, double value) {
        that(Double.isFinite(value), owner, field, limit, null);
        return value + 0.0;
    }

    /** Nothing but U+0009 to U+000D and U+0020. */
    static boolean isBlank(String text) {
        return text.chars().allMatch(unit -> unit == ' ' || (unit >= '\t' && unit <= '\r'));
    }

    /** The length in code points. */
    static int length(String text) {
        return text.codePointCount(0, text.length());
    }

    private static int[] codePoints(String text) {
        return text.codePoints().toArray();
    }

    static <T> T given(String owner, String field, T value) {
        if (value == null) {
            throw new CreationException.MissingFields(owner, List.of(field));
        }
        return value;
    }

    static <T> List<T> list(String owner, String field, List<T> values) {
        if (values.isEmpty()) {
            return List.of();
        }
        List<T> own = new ArrayList<>(values);
        for (T value : own) {
            given(owner, field, value);
        }
        return Collections.unmodifiableList(own);
    }

    static <T> List<T> list(String owner, String field, List<T> values, UnaryOperator<T> held) {
        List<T> own = new ArrayList<>(values.size());
        for (T value : values) {
            own.add(held.apply(given(owner, field, value)));
        }
        return Collections.unmodifiableList(own);
    }

    static <T> Set<T> set(String owner, String field, Collection<T> values, Comparator<T> order) {
        Set<T> own = new TreeSet<>(order);
        for (T value : values) {
            own.add(given(owner, field, value));
        }
        return Collections.unmodifiableSet(own);
    }

    static <K, V> Map<K, V> map(
            String owner,
            String field,
            Map<K, V> values,
            Comparator<K> order,
            UnaryOperator<V> held) {
        Map<K, V> own = new TreeMap<>(order);
        // Not by forEach, which would hand the caller's map a way to write into this one.
        for (Map.Entry<K, V> entry : values.entrySet()) {
            V value = given(owner, field, entry.getValue());
            own.put(given(owner, field, entry.getKey()), held.apply(value));
        }
        return Collections.unmodifiableMap(own);
    }
}
