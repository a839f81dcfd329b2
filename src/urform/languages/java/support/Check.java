package PACKAGE;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.UnaryOperator;

/** The limits, and how collections are held. */
final class Check {
    /** The order in which texts are shown: by code point, where String compares UTF-16 units. */
    static final Comparator<String> BY_CODE_POINT = Check::compare;

    private Check() {}

    static void that(
            boolean holds, String owner, String field, String limit, Object bound, Object value) {
        if (!holds) {
            throw new CreationException.OutOfLimit(owner, field, limit, bound, value);
        }
    }

    /** The same for whole numbers, which are boxed for an error only. */
    static void within(
            boolean holds, String owner, String field, String limit, long bound, long value) {
        if (!holds) {
            throw new CreationException.OutOfLimit(owner, field, limit, bound, value);
        }
    }

    /** The same for reals. */
    static void within(
            boolean holds, String owner, String field, String limit, double bound, double value) {
        if (!holds) {
            throw new CreationException.OutOfLimit(owner, field, limit, bound, value);
        }
    }

    /** A finite number, and never -0.0. */
    static double finite(String owner, String field, String limit, double value) {
        that(Double.isFinite(value), owner, field, limit, null, value);
        return value + 0.0;
    }

    /** Nothing but U+0009 to U+000D and U+0020. */
    static boolean isBlank(String text) {
        for (int at = 0; at < text.length(); at++) {
            char unit = text.charAt(at);
            if (unit != ' ' && (unit < '\t' || unit > '\r')) {
                return false;
            }
        }
        return true;
    }

    /** A day of the years 1 to 9999; LocalDate has others. */
    static boolean isDate(LocalDate day) {
        return day.getYear() >= 1 && day.getYear() <= 9999;
    }

    static LocalDate date(String owner, String field, String limit, LocalDate value) {
        that(isDate(value), owner, field, limit, null, value);
        return value;
    }

    /** In whole microseconds, of the years 1 to 9999; Instant has others. */
    static boolean isInstant(Instant instant) {
        long seconds = instant.getEpochSecond();
        return instant.getNano() % 1000 == 0
                && seconds >= -62135596800L
                && seconds <= 253402300799L;
    }

    static Instant instant(String owner, String field, String limit, Instant value) {
        that(isInstant(value), owner, field, limit, null, value);
        return value;
    }

    /** In whole microseconds; LocalTime has others. */
    static boolean isTime(LocalTime time) {
        return time.getNano() % 1000 == 0;
    }

    static LocalTime time(String owner, String field, String limit, LocalTime value) {
        that(isTime(value), owner, field, limit, null, value);
        return value;
    }

    /** In whole microseconds, of at most 100,000 days; Duration has others. */
    static boolean isDuration(Duration length) {
        return length.getNano() % 1000 == 0
                && length.compareTo(Duration.ofDays(100_000)) <= 0
                && length.compareTo(Duration.ofDays(-100_000)) >= 0;
    }

    static Duration duration(String owner, String field, String limit, Duration value) {
        that(isDuration(value), owner, field, limit, null, value);
        return value;
    }

    /** Of at most 20 digits before the point and 18 behind it; BigDecimal has others, and subclasses that can change. */
    static boolean isDecimal(BigDecimal number) {
        BigDecimal shortest = number.stripTrailingZeros();
        return number.getClass() == BigDecimal.class
                && shortest.scale() <= 18
                && (long) shortest.precision() - shortest.scale() <= 20;
    }

    static BigDecimal decimal(String owner, String field, String limit, BigDecimal value) {
        that(isDecimal(value), owner, field, limit, null, value);
        return shortest(value);
    }

    /** The same number without zeros at its end, and without an exponent. */
    static BigDecimal shortest(BigDecimal number) {
        BigDecimal shortest = number.stripTrailingZeros();
        return shortest.scale() < 0 ? shortest.setScale(0) : shortest;
    }

    /** The length in code points. */
    static int length(String text) {
        return text.codePointCount(0, text.length());
    }

    private static int compare(String one, String other) {
        int shared = Math.min(one.length(), other.length());
        for (int at = 0; at < shared; at++) {
            if (one.charAt(at) != other.charAt(at)) {
                return rank(one.charAt(at)) - rank(other.charAt(at));
            }
        }
        return one.length() - other.length();
    }

    /** Code points beyond U+FFFF are pairs of surrogates, and come after U+E000 to U+FFFF. */
    private static int rank(char unit) {
        return Character.isSurrogate(unit) ? unit + 0x10000 : unit;
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

    /** No element stands twice. */
    static <T> void distinct(String owner, String field, List<T> values) {
        distinct(owner, field, values, each -> each);
    }

    /** The same, where an error tells something else of an element. */
    static <T> void distinct(
            String owner, String field, List<T> values, Function<T, Object> told) {
        T twice = repeated(values);
        that(twice == null, owner, field, "unique", null, twice == null ? null : told.apply(twice));
    }

    /** The first element that stood there before already, or null. */
    static <T> T repeated(List<T> values) {
        Set<T> before = new HashSet<>();
        for (T value : values) {
            if (!before.add(value)) {
                return value;
            }
        }
        return null;
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
