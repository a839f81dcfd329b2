package PACKAGE;

import java.math.BigDecimal;
import java.math.MathContext;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** What the errors of limits say. */
final class Messages {
    private static final int MOST_SHOWN = 80;
    private static final BigDecimal SIXTY = BigDecimal.valueOf(60);
    private static final Map<String, String> WITHIN =
            Map.of("each.", "an element of ", "key.", "a key of ");
    private static final Map<String, String> WANTED =
            Map.ofEntries(
                    Map.entry("min", "at least {} is allowed"),
                    Map.entry("max", "at most {} is allowed"),
                    Map.entry("above", "more than {} is wanted"),
                    Map.entry("below", "less than {} is wanted"),
                    Map.entry("finite", "a finite number is wanted"),
                    Map.entry("not_blank", "a text that is not blank is wanted"),
                    Map.entry("min_length", "a length of at least {} is allowed"),
                    Map.entry("max_length", "a length of at most {} is allowed"),
                    Map.entry("one_of", "one of {} is wanted"),
                    Map.entry("pattern", "a text that matches {} is wanted"),
                    Map.entry("uri", "a URI is wanted"),
                    Map.entry("date", "a date is wanted"),
                    Map.entry("time", "a time of day is wanted"),
                    Map.entry("instant", "an instant is wanted"),
                    Map.entry("duration", "a duration is wanted"),
                    Map.entry("decimal", "a decimal number is wanted"),
                    Map.entry("unique", "each element is allowed once"));
    private static final Map<String, String> WANTED_IN_TIME =
            Map.of(
                    "min", "{} or later is allowed",
                    "max", "{} or earlier is allowed",
                    "above", "later than {} is wanted",
                    "below", "earlier than {} is wanted");
    private static final Map<Integer, String> SHORT =
            Map.of(
                    (int) '\n', "\\n",
                    (int) '\r', "\\r",
                    (int) '\t', "\\t",
                    (int) '"', "\\\"",
                    (int) '\\', "\\\\");

    private Messages() {}

    static String of(String owner, String field, String limit, Object bound, Object value) {
        int dot = limit.indexOf('.') + 1;
        String name = limit.substring(dot);
        String path = WITHIN.getOrDefault(limit.substring(0, dot), "") + owner + "." + field;
        Map<String, String> words = isInTime(bound) ? WANTED_IN_TIME : WANTED;
        String wanted = words.getOrDefault(name, "{} is its " + name).replace("{}", bound(bound));
        if (value == null) {
            return path + ": " + wanted;
        }
        if (name.endsWith("_length") && value instanceof Long length) {
            return path + " has the length " + length + "; " + wanted.replace("a length of ", "");
        }
        if (name.equals("unique")) {
            return path + " has " + shown(value) + " twice; " + wanted;
        }
        return path + " is " + shown(value) + "; " + wanted;
    }

    private static boolean isInTime(Object bound) {
        return bound instanceof LocalDate
                || bound instanceof LocalTime
                || bound instanceof Instant;
    }

    /** As records have it, without zeros at the end of a fraction. */
    static String textOf(Instant instant) {
        String text = instant.toString();
        return text.contains(".") ? text.replaceFirst("0*Z$", "Z") : text;
    }

    /** As records have it, with its seconds and without zeros at the end of a fraction. */
    static String textOf(LocalTime time) {
        String text = time.toString();
        if (time.getSecond() == 0 && time.getNano() == 0) {
            return text + ":00";
        }
        return text.contains(".") ? text.replaceFirst("0*$", "") : text;
    }

    /** As records have it: hours, minutes and seconds, those that are not zero. */
    static String textOf(Duration length) {
        BigDecimal total =
                BigDecimal.valueOf(length.getSeconds())
                        .add(BigDecimal.valueOf(length.getNano(), 9));
        BigDecimal[] minutes = total.abs().divideAndRemainder(SIXTY);
        BigDecimal[] hours = minutes[0].divideAndRemainder(SIXTY);
        String text = counted(hours[0], "H") + counted(hours[1], "M") + counted(minutes[1], "S");
        return (total.signum() < 0 ? "-PT" : "PT") + (text.isEmpty() ? "0S" : text);
    }

    private static String counted(BigDecimal count, String unit) {
        return count.signum() == 0 ? "" : textOf(count) + unit;
    }

    /** As records have it, without zeros at its end; with an exponent where there would be too many. */
    static String textOf(BigDecimal number) {
        BigDecimal shortest = number.stripTrailingZeros();
        boolean isShort = Math.abs((long) shortest.scale()) < MOST_SHOWN;
        return isShort ? shortest.toPlainString() : shortest.toString();
    }

    private static String bound(Object bound) {
        if (bound instanceof List<?> words) {
            return words.stream().map(Messages::shown).collect(Collectors.joining(", "));
        }
        return bound == null ? "" : shown(bound);
    }

    /** A text in quotes, cut, its controls escaped; a number. */
    static String shown(Object value) {
        if (value instanceof String text) {
            String more = text.codePointCount(0, text.length()) > MOST_SHOWN ? "…" : "";
            return text.codePoints()
                    .limit(MOST_SHOWN)
                    .mapToObj(Messages::escaped)
                    .collect(Collectors.joining("", "\"", more + "\""));
        }
        if (value instanceof LocalDate date) {
            return shown(date.toString());
        }
        if (value instanceof Instant instant) {
            return shown(textOf(instant));
        }
        if (value instanceof LocalTime time) {
            return shown(textOf(time));
        }
        if (value instanceof Duration length) {
            return shown(textOf(length));
        }
        if (value instanceof BigDecimal number) {
            return shown(textOf(number));
        }
        return value instanceof Double number ? real(number) : String.valueOf(value);
    }

    private static String escaped(int code) {
        if (code < 0x20 || (code >= 0x7f && code <= 0x9f)) {
            return SHORT.getOrDefault(code, String.format("\\u%04x", code));
        }
        return SHORT.getOrDefault(code, Character.toString(code));
    }

    /** The fewest digits that read back as this number, laid out as in ECMAScript, with .0 if it is whole. */
    private static String real(double number) {
        if (!Double.isFinite(number)) {
            return String.valueOf(number);
        }
        if (number == 0) {
            return "0.0";
        }
        BigDecimal found = fewest(Math.abs(number)).stripTrailingZeros();
        String digits = found.unscaledValue().toString();
        int point = digits.length() - found.scale();
        String sign = number < 0 ? "-" : "";
        if (digits.length() <= point && point <= 21) {
            return sign + digits + "0".repeat(point - digits.length()) + ".0";
        }
        if (0 < point && point <= 21) {
            return sign + digits.substring(0, point) + "." + digits.substring(point);
        }
        if (-6 < point && point <= 0) {
            return sign + "0." + "0".repeat(-point) + digits;
        }
        String more = digits.length() > 1 ? "." + digits.substring(1) : "";
        return sign + digits.charAt(0) + more + "e" + (point > 0 ? "+" : "") + (point - 1);
    }

    /** Double.toString has a digit too many now and then, before Java 19. */
    private static BigDecimal fewest(double number) {
        BigDecimal exact = new BigDecimal(number);
        for (int digits = 1; digits < 17; digits++) {
            BigDecimal rounded = exact.round(new MathContext(digits));
            if (rounded.doubleValue() == number) {
                return rounded;
            }
        }
        return exact.round(new MathContext(17));
    }
}
