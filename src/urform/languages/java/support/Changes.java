package PACKAGE;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What a product holds after a change of one element. */
final class Changes {
    private Changes() {}

    static <T> List<T> with(List<T> held, T one) {
        List<T> own = new ArrayList<>(held.size() + 1);
        own.addAll(held);
        own.add(one);
        return Collections.unmodifiableList(own);
    }

    static <T> List<T> replaced(List<T> held, int at, T one) {
        List<T> own = new ArrayList<>(held);
        own.set(at, one);
        return Collections.unmodifiableList(own);
    }

    static <T> List<T> without(List<T> held, int at) {
        List<T> own = new ArrayList<>(held);
        own.remove(at);
        return Collections.unmodifiableList(own);
    }

    static <T> Set<T> including(Set<T> held, T one, Comparator<T> order) {
        Set<T> own = new TreeSet<>(order);
        own.addAll(held);
        own.add(one);
        return Collections.unmodifiableSet(own);
    }

    static <T> Set<T> excluding(Set<T> held, T one) {
        Set<T> own = new LinkedHashSet<>(held);
        own.remove(one);
        return Collections.unmodifiableSet(own);
    }

    static <K, V> Map<K, V> put(Map<K, V> held, K key, V one, Comparator<K> order) {
        Map<K, V> own = new TreeMap<>(order);
        own.putAll(held);
        own.put(key, one);
        return Collections.unmodifiableMap(own);
    }

    static <K, V> Map<K, V> dropped(Map<K, V> held, K key) {
        Map<K, V> own = new LinkedHashMap<>(held);
        own.remove(key);
        return Collections.unmodifiableMap(own);
    }
}
