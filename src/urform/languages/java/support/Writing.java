package PACKAGE;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalLong;
import java.util.function.Function;

/** What is written of products: trees of maps, lists and plain values, and their text. */
final class Writing {
    private Writing() {}

    /** Puts what is written of a field, unless that is the usual. */
    static void put(Map<String, Object> tree, String name, Object written, Object usual) {
        if (!Objects.equals(written, usual)) {
            tree.put(name, written);
        }
    }

    static <T> Object each(Optional<T> held, Function<T, ?> write) {
        return held.isPresent() ? write.apply(held.get()) : null;
    }

    static Object each(OptionalLong held) {
        return held.isPresent() ? held.getAsLong() : null;
    }

    static Object each(OptionalDouble held) {
        return held.isPresent() ? held.getAsDouble() : null;
    }

    static <C> String name(Map<String, C> words, C word) {
        for (Map.Entry<String, C> each : words.entrySet()) {
            if (each.getValue() == word) {
                return each.getKey();
            }
        }
        throw new IllegalStateException("every word has a name");
    }

    static <T> List<Object> list(Collection<T> held, Function<T, ?> write) {
        List<Object> written = new ArrayList<>(held.size());
        held.forEach(each -> written.add(write.apply(each)));
        return written;
    }

    static <T> List<Object> sorted(Collection<T> held, Function<T, ?> write) {
        List<Object> written = list(held, write);
        written.sort(Writing::compare);
        return written;
    }

    static <K, T> Map<String, Object> map(
            Map<K, T> held, Function<K, ?> key, Function<T, ?> write) {
        List<Map.Entry<K, T>> entries = new ArrayList<>(held.entrySet());
        entries.sort(Comparator.comparing(entry -> key.apply(entry.getKey()), Writing::compare));
        Map<String, Object> tree = new LinkedHashMap<>();
        for (Map.Entry<K, T> entry : entries) {
            tree.put(String.valueOf(key.apply(entry.getKey())), write.apply(entry.getValue()));
        }
        return tree;
    }

    /** By number or code point. */
    private static int compare(Object one, Object other) {
        if (one instanceof Long number) {
            return number.compareTo((Long) other);
        }
        return Arrays.compare(
                ((String) one).codePoints().toArray(), ((String) other).codePoints().toArray());
    }

    /** The text of a tree: no blanks, names in their order, numbers as ECMAScript writes them. */
    static String text(Object node) {
        StringBuilder text = new StringBuilder();
        append(text, node);
        return text.toString();
    }

    private static void append(StringBuilder text, Object node) {
        if (node instanceof Map<?, ?> tree) {
            String before = "{";
            for (Map.Entry<?, ?> each : tree.entrySet()) {
                appendString(text.append(before), String.valueOf(each.getKey()));
                append(text.append(':'), each.getValue());
                before = ",";
            }
            text.append(tree.isEmpty() ? "{}" : "}");
        } else if (node instanceof List<?> list) {
            String before = "[";
            for (Object each : list) {
                append(text.append(before), each);
                before = ",";
            }
            text.append(list.isEmpty() ? "[]" : "]");
        } else if (node instanceof String string) {
            appendString(text, string);
        } else if (node instanceof Double number) {
            String shown = Messages.shown(number);
            text.append(shown.endsWith(".0") ? shown.substring(0, shown.length() - 2) : shown);
        } else {
            text.append(node);
        }
    }

    private static void appendString(StringBuilder text, String string) {
        text.append('"');
        for (int at = 0; at < string.length(); at++) {
            char unit = string.charAt(at);
            switch (unit) {
                case '"' -> text.append("\\\"");
                case '\\' -> text.append("\\\\");
                case '\b' -> text.append("\\b");
                case '\f' -> text.append("\\f");
                case '\n' -> text.append("\\n");
                case '\r' -> text.append("\\r");
                case '\t' -> text.append("\\t");
                default -> {
                    if (unit < ' ') {
                        text.append(String.format("\\u%04x", (int) unit));
                    } else {
                        text.append(unit);
                    }
                }
            }
        }
        text.append('"');
    }
}
