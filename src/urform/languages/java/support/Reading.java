package PACKAGE;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/** Reads one record, and keeps everything that is wrong with it. What cannot be read is null. */
final class Reading {
    private static final Pattern UUID_TEXT =
            Pattern.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}");
    private static final Pattern INSTANT_TEXT =
            Pattern.compile(
                    "([0-9]{4}-[0-9]{2}-[0-9]{2}[Tt](?:[01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](?:\\.[0-9]{1,6})?)"
                            + "(?:[Zz]|([+-])([01][0-9]|2[0-3]):([0-5][0-9]))");
    private static final Pattern TIME_TEXT =
            Pattern.compile("([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\\.[0-9]{1,6})?");
    private static final Pattern DURATION_TEXT =
            Pattern.compile(
                    "(-?)P(?=[0-9T])(?:([0-9]{1,5})W|(?:([0-9]{1,6})D)?"
                            + "(?:T(?=[0-9])(?:([0-9]{1,7})H)?(?:([0-9]{1,9})M)?"
                            + "(?:([0-9]{1,10}(?:\\.[0-9]{1,6})?)S)?)?)");
    private static final Pattern DECIMAL_TEXT =
            Pattern.compile("-?(0|[1-9][0-9]{0,19})(\\.[0-9]{1,18})?");
    private static final int MOST_LEVELS = 200;

    /** In code points: nothing is suggested for a longer name. */
    private static final int FARTHEST = 80;

    /** The first whole number that has neighbours of the same real. */
    private static final double EXACT = 1L << 53;

    private final List<RecordProblem> problems = new ArrayList<>();

    private Reading() {}

    /** A limit that is checked, by its name; one on the form of texts has what tells them. */
    record Limit(String name, Object bound, Predicate<String> form, boolean unlessEmpty) {}

    static Limit limit(String name, Object bound) {
        return new Limit(name, bound, null, false);
    }

    /** A least length of collections that are not empty. */
    static Limit unlessEmpty(String name, long bound) {
        return new Limit(name, bound, null, true);
    }

    static Limit form(String name, String bound, Predicate<String> form) {
        return new Limit(name, bound, form, false);
    }

    /** The words of a choice by their names in records. */
    static <C> Map<String, C> words(List<String> names, List<C> words) {
        Map<String, C> byName = new LinkedHashMap<>();
        for (int at = 0; at < names.size(); at++) {
            byName.put(names.get(at), words.get(at));
        }
        return byName;
    }

    static <T> T read(String owner, Object record, Function<Value, T> read) {
        Reading reading = new Reading();
        Value root = new Value(reading, null, "", 0, owner, "", "", record);
        if (record == null) {
            root.unfit("type", "a record is wanted");
        }
        T made = read.apply(root);
        if (!reading.problems.isEmpty()) {
            throw new CreationException.BadRecord(owner, reading.problems);
        }
        return made;
    }

    private void tell(Value at, String step, RecordProblem problem) {
        String path = at.path() + step;
        String from = path.startsWith(".") ? path.substring(1) : path;
        problems.add(problem.at(from, -1));  // «#tell#»
    }

    static String step(String name) {
        return name.matches("[A-Za-z_][A-Za-z0-9_]*") ? "." + name : "[" + Messages.shown(name) + "]";
    }

    private static String oneOf(Iterable<String> names) {
        List<String> shown = new ArrayList<>();
        names.forEach(name -> shown.add(Messages.shown(name)));
        return "one of " + String.join(", ", shown) + " is wanted";
    }

    private static String shown(Object value) {
        if (value instanceof Map) {
            return "a record";
        }
        if (value instanceof List) {
            return "a list";
        }
        if (value instanceof BigDecimal || value instanceof Float) {
            return Messages.shown(((Number) value).doubleValue());
        }
        String shown = Messages.shown(value);
        return value instanceof BigInteger && shown.length() > FARTHEST
                ? "a number of many digits"
                : shown;
    }

    /** A key of a map, as it is shown. */
    private record Key(String shown) {
        @Override
        public String toString() {
            return shown;
        }
    }

    /** A value in a record, and the field that it is for. One that is null is not there. */
    static final class Value {
        private final Reading reading;
        private final Value up;
        private final Object step; // a name, the place of an element, or a key of a map
        private final int level;
        private final String owner;
        private final String field;
        private final String within;
        private final Object value;
        private boolean isSecret;

        private Value(
                Reading reading,
                Value up,
                Object step,
                int level,
                String owner,
                String field,
                String within,
                Object value) {
            this.reading = reading;
            this.up = up;
            this.step = step;
            this.level = level;
            this.owner = owner;
            this.field = field;
            this.within = within;
            this.value = value;
        }

        /** The record that this is without one of its names, for a maker that reads it. */
        Map<String, Object> without(String name) {
            Map<String, Object> rest = new LinkedHashMap<>();
            ((Map<?, ?>) value).forEach((key, held) -> rest.put(String.valueOf(key), held));
            rest.remove(name);
            return rest;
        }

        /** The same, but no message tells it. */
        Value secret() {
            isSecret = true;
            return this;
        }

        private String path() {
            if (up == null) {
                return "";
            }
            return up.path() + steps();  // «#step#»
        }

        private String steps() {
            return step instanceof String name ? step(name) : "[" + step + "]";
        }

        private String named() {
            String part = within.isEmpty() ? "" : within.equals("key.") ? "a key of " : "an element of ";
            return part + (field.isEmpty() ? owner : owner + "." + field);
        }

        private <T> T unfit(String limit, String wanted) {
            String found = isSecret ? ": " : " is " + shown(value) + "; ";
            return tell(named() + found + wanted, limit, null, isSecret ? null : value);
        }

        private <T> T tell(String text, String limit, Object bound, Object found) {
            String name = within + limit;
            reading.tell(
                    this, "", new RecordProblem("", text, owner, field, name, bound, found, -1));
            return null;
        }

        private void missing() {
            tell(named() + " is missing", "missing", null, null);
        }

        /** The value, if it keeps its limits; the first that it does not keep is told. */
        private <T> T kept(T held, Object found, Limit[] limits, Predicate<Limit> breaks) {
            for (Limit limit : limits) {
                if (breaks.test(limit)) {
                    Object told = isSecret && found instanceof String ? null : found;
                    String name = within + limit.name();
                    String text = Messages.of(owner, field, name, limit.bound(), told);
                    return tell(text, limit.name(), limit.bound(), told);
                }
            }
            return held;
        }

        String text(Limit... limits) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof String text)) {
                return unfit("type", "a text is wanted");
            }
            return kept(text, text, limits, limit -> breaks(text, limit));
        }

        LocalDate date(Limit... limits) {
            return told(LocalDate.class, "date", "a date", text -> dateOf(text), limits);  // «#date#»
        }

        Instant instant(Limit... limits) {
            return told(Instant.class, "instant", "an instant", text -> instantOf(text), limits);  // «#instant#»
        }

        /** What a text of a fixed form tells, within its limits. */
        private <T extends Comparable<? super T>> T told(
                Class<T> type,
                String kind,
                String wanted,
                Function<String, T> of,
                Limit... limits) {
            if (value == null) {
                return null;
            }
            T read = value instanceof String text ? of.apply(text) : null;
            if (read == null) {
                return unfit(value instanceof String ? kind : "type", wanted + " is wanted");
            }
            return kept(
                    read,
                    read,
                    limits,
                    limit -> breaks(limit.name(), read.compareTo(type.cast(limit.bound())), 0));
        }

        /** The date that a text tells as RFC 3339 has it; LocalDate reads longer years too. */
        private static LocalDate dateOf(String text) {
            if (text.length() != 10) {
                return null;
            }
            try {
                LocalDate read = LocalDate.parse(text);
                return Check.isDate(read) ? read : null;
            } catch (DateTimeParseException none) {
                return null;
            }
        }

        /** The instant that a text tells as RFC 3339 has it; Java reads other forms, and fewer offsets. */
        private static Instant instantOf(String text) {
            Matcher parts = INSTANT_TEXT.matcher(text);
            if (!parts.matches()) {
                return null;
            }
            try {
                LocalDateTime local = LocalDateTime.parse(parts.group(1));
                Instant read = local.minus(offset(parts)).toInstant(ZoneOffset.UTC);
                return Check.isInstant(read) ? read : null;
            } catch (DateTimeParseException none) {
                return null;
            }
        }

        LocalTime time(Limit... limits) {
            Function<String, LocalTime> of = text -> timeOf(text);  // «#time#»
            return told(LocalTime.class, "time", "a time of day", of, limits);
        }

        /** The time of day that a text tells as RFC 3339 has it; LocalTime reads shorter ones too. */
        private static LocalTime timeOf(String text) {
            return TIME_TEXT.matcher(text).matches() ? LocalTime.parse(text) : null;
        }

        Duration duration(Limit... limits) {
            Function<String, Duration> of = text -> durationOf(text);  // «#duration#»
            return told(Duration.class, "duration", "a duration", of, limits);
        }

        /** The length of time that a text tells as ISO 8601 has it; Duration knows no weeks, and more signs. */
        private static Duration durationOf(String text) {
            Matcher parts = DURATION_TEXT.matcher(text);
            if (!parts.matches()) {
                return null;
            }
            String seconds = parts.group(6) == null ? "0" : parts.group(6);
            Duration length =
                    Duration.ofDays(count(parts, 2) * 7 + count(parts, 3))
                            .plusHours(count(parts, 4))
                            .plusMinutes(count(parts, 5))
                            .plus(Duration.parse("PT" + seconds + "S"));
            Duration read = parts.group(1).isEmpty() ? length : length.negated();
            return Check.isDuration(read) ? read : null;
        }

        private static long count(Matcher parts, int group) {
            return parts.group(group) == null ? 0 : Long.parseLong(parts.group(group));
        }

        BigDecimal decimal(Limit... limits) {
            Function<String, BigDecimal> of = text -> decimalOf(text);  // «#decimal#»
            return told(BigDecimal.class, "decimal", "a decimal number", of, limits);
        }

        /** The decimal number that a text tells; BigDecimal reads other forms too. */
        private static BigDecimal decimalOf(String text) {
            boolean isOne = DECIMAL_TEXT.matcher(text).matches();
            return isOne ? Check.shortest(new BigDecimal(text)) : null;
        }

        private static Duration offset(Matcher parts) {
            if (parts.group(2) == null) {
                return Duration.ZERO;
            }
            long minutes = Long.parseLong(parts.group(3)) * 60 + Long.parseLong(parts.group(4));
            return Duration.ofMinutes(parts.group(2).equals("-") ? -minutes : minutes);
        }

        UUID uuid(Limit... limits) {
            return told(UUID.class, "uuid", "a UUID", text -> uuidOf(text), limits);  // «#uuid#»
        }

        /** The UUID that a text tells in five groups; UUID reads shorter ones too. */
        private static UUID uuidOf(String text) {
            return UUID_TEXT.matcher(text).matches() ? UUID.fromString(text) : null;
        }

        private static boolean breaks(String text, Limit limit) {
            if (limit.form() != null) {
                return !limit.form().test(text);
            }
            if (limit.bound() instanceof List<?> words) {
                return !words.contains(text);
            }
            return limit.bound() instanceof Long bound
                    ? breaks(limit.name(), text.codePointCount(0, text.length()), bound)
                    : isBlank(text);
        }

        private static boolean isBlank(String text) {
            return text.chars().allMatch(unit -> unit == ' ' || (unit >= '\t' && unit <= '\r'));
        }

        private static boolean breaks(String name, double number, double bound) {
            return switch (name) {
                case "min", "min_length" -> number < bound;
                case "max", "max_length" -> number > bound;
                case "above" -> number <= bound;
                case "below" -> number >= bound;
                default -> false;
            };
        }

        private static boolean breaks(String name, long number, long bound) {
            return switch (name) {
                case "min", "min_length" -> number < bound;
                case "max", "max_length" -> number > bound;
                case "above" -> number <= bound;
                case "below" -> number >= bound;
                default -> false;
            };
        }

        /** 5, and 5.0, which JSON does not tell apart. */
        Long integer(Limit... limits) {
            if (value == null) {
                return null;
            }
            if (value instanceof Long || value instanceof Integer) {
                return integer(((Number) value).longValue(), limits);
            }
            BigDecimal exact = exact(value);
            if (exact == null || exact.stripTrailingZeros().scale() > 0) {
                return unfit("type", "an integer is wanted");
            }
            BigInteger whole = exact.toBigIntegerExact();
            if (whole.bitLength() > 63) {
                return unfit("range", "an integer of 64 bits is wanted");
            }
            return integer(whole.longValue(), limits);
        }

        private Long integer(long number, Limit... limits) {
            return kept(
                    number,
                    number,
                    limits,
                    limit ->
                            limit.bound() instanceof List<?> words
                                    ? !words.contains(number)
                                    : breaks(limit.name(), number, (Long) limit.bound()));
        }

        private static BigDecimal exact(Object value) {
            if (value instanceof BigDecimal number) {
                return number.scale() < -FARTHEST ? null : number;
            }
            if (value instanceof BigInteger number) {
                return new BigDecimal(number);
            }
            if (value instanceof Double || value instanceof Float) {
                double number = ((Number) value).doubleValue();
                boolean isWhole = number == Math.rint(number) && Math.abs(number) < EXACT;
                return isWhole ? new BigDecimal(number) : null;
            }
            return value instanceof Number number ? BigDecimal.valueOf(number.longValue()) : null;
        }

        Double real(Limit... limits) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof Number found)) {
                return unfit("type", "a number is wanted");
            }
            double number = found.doubleValue();
            return kept(
                    number,
                    number,
                    limits,
                    limit ->
                            limit.bound() instanceof Double bound
                                    ? breaks(limit.name(), number, bound)
                                    : !Double.isFinite(number));
        }

        Boolean truth() {
            if (value == null || value instanceof Boolean) {
                return (Boolean) value;
            }
            return unfit("type", "true or false is wanted");
        }

        <C> C word(Map<String, C> words) {
            if (value == null) {
                return null;
            }
            C word = value instanceof String ? words.get(value) : null;
            return word == null ? unfit("choice", oneOf(words.keySet())) : word;
        }

        private boolean isTooDeep() {
            if (level < MOST_LEVELS) {
                return false;
            }
            String text = "this is more than " + MOST_LEVELS + " levels deep";
            tell(text, "depth", (long) MOST_LEVELS, null);
            return true;
        }

        private Value inside(Object step, String within, Object found) {
            return new Value(reading, this, step, level + 1, owner, field, within, found);
        }

        private Value element(Object step, Object found) {
            Value element = inside(step, "each.", found);
            element.isSecret = isSecret;
            if (found == null) {
                element.missing();
            }
            return element;
        }

        private Long size(Limit[] limits, int size) {
            long length = size;
            return kept(
                    length,
                    length,
                    limits,
                    limit ->
                            !(limit.unlessEmpty() && length == 0)
                                    && breaks(limit.name(), length, (Long) limit.bound()));
        }

        <T> List<T> list(Function<Value, T> read, Limit... limits) {
            List<T> held = elements(read);
            return held == null || size(limits, held.size()) == null ? null : held;
        }

        /** A list in which no element stands twice. */
        <T> List<T> distinct(Function<Value, T> read, Limit... limits) {
            return distinctWords(read, each -> each, limits);
        }

        /** The same of words, of which an error tells the text. */
        <T> List<T> distinctWords(
                Function<Value, T> read, Function<T, Object> told, Limit... limits) {
            List<T> held = list(read, limits);
            T twice = held == null ? null : Check.repeated(held);
            Limit[] unique = {limit("unique", null)};
            return twice == null ? held : kept(held, told.apply(twice), unique, limit -> true);
        }

        <T> Set<T> set(Function<Value, T> read, Limit... limits) {
            List<T> held = elements(read);
            Set<T> distinct = held == null ? null : new LinkedHashSet<>(held);
            return distinct == null || size(limits, distinct.size()) == null ? null : distinct;
        }

        private <T> List<T> elements(Function<Value, T> read) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof List<?> values)) {
                return unfit("type", "a list is wanted");
            }
            if (isTooDeep()) {
                return null;
            }
            int before = reading.problems.size();
            List<T> held = new ArrayList<>(values.size());
            int at = 0;
            for (Object found : values) {
                held.add(read.apply(element(at++, found)));
            }
            return reading.problems.size() == before ? held : null;
        }

        <K, T> Map<K, T> map(
                boolean isNumbered,
                Function<Value, K> key,
                Function<Value, T> read,
                Limit... limits) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof Map<?, ?> values)) {
                return unfit("type", "a record is wanted");
            }
            if (isTooDeep()) {
                return null;
            }
            int before = reading.problems.size();
            Map<K, T> held = new HashMap<>();
            for (String name : names(values)) {
                boolean isWhole = isNumbered && name.matches("0|-?[1-9][0-9]{0,18}");
                Key step = new Key(isWhole ? name : Messages.shown(name));
                Object named = isWhole ? new BigInteger(name) : name;
                K read1 = key.apply(inside(step, "key.", named));
                held.put(read1, read.apply(element(step, values.get(name))));
            }
            boolean isSound = reading.problems.size() == before;
            return isSound && size(limits, held.size()) != null ? held : null;
        }

        private static Set<String> names(Map<?, ?> values) {
            Set<String> names = new TreeSet<>(Reading::byCodePoint);
            values.keySet().forEach(name -> names.add(String.valueOf(name)));
            return names;
        }

        /** What a product is read of; null where it is no record. The kind is null for a product that has none. */
        Fields fields(String product, String kindName, String... kinds) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof Map<?, ?> values)) {
                return unfit("type", "a record is wanted");
            }
            Value record = new Value(reading, up, step, level, product, "", "", value);
            if (record.isTooDeep()) {
                return null;
            }
            Fields fields = new Fields(record, values);
            Object kind = kindName == null ? null : values.get(kindName);
            if (kind != null && !Arrays.asList(kinds).contains(kind)) {
                record.unknownKind(kindName, kind, kinds);
            }
            return fields;
        }

        /** The kind that a record tells, if it is one of these; empty where it tells none and needs none, else null. */
        String kind(String product, String name, boolean isNeeded, String... kinds) {
            if (value == null) {
                return null;
            }
            if (!(value instanceof Map<?, ?> values)) {
                return unfit("type", "a record is wanted");
            }
            Object kind = values.get(name);
            if (kind instanceof String found && Arrays.asList(kinds).contains(found)) {
                return found;
            }
            if (kind == null && !isNeeded) {
                return "";
            }
            return new Value(reading, up, step, level, product, "", "", value)
                    .unknownKind(name, kind, kinds);
        }

        private String unknownKind(String name, Object kind, String... kinds) {
            boolean isMissing = kind == null;  // «#kind#»
            String found =
                    isMissing ? " is missing" : " is " + shown(kind) + "; " + oneOf(Arrays.asList(kinds));
            String limit = isMissing ? "missing" : "kind";
            String text = owner + "." + name + found;
            reading.tell(
                    this,
                    step(name),
                    new RecordProblem("", text, owner, name, limit, null, kind, -1));
            return null;
        }
    }

    /** An object that is read as one product. */
    static final class Fields {
        private final Value record;
        private final Map<?, ?> values;
        private final int before;

        private Fields(Value record, Map<?, ?> values) {
            this.record = record;
            this.values = values;
            this.before = record.reading.problems.size();
        }

        Value optional(String name, String owner, String field) {
            Object found = values.get(name);
            Reading reading = record.reading;
            return new Value(reading, record, name, record.level + 1, owner, field, "", found);
        }

        Value required(String name, String owner, String field) {
            Value value = optional(name, owner, field);
            if (value.value == null) {
                value.missing();
            }
            return value;
        }

        /** Tells the names that are none of these. */
        void refuseOthers(String... known) {
            List<String> names = Arrays.asList(known);
            if (names.containsAll(values.keySet())) {
                return;
            }
            for (String name : Value.names(values)) {
                if (!names.contains(name)) {
                    String meant = nearest(name, known);
                    String hint =
                            meant == null ? "" : "; did you mean " + Messages.shown(meant) + "?";
                    String owner = record.owner;
                    String text = owner + " has no such field" + hint;
                    record.reading.tell(
                            record,
                            step(name),
                            new RecordProblem("", text, owner, name, "unknown", null, null, -1));
                }
            }
        }

        /** Whether nothing is wrong so far. */
        boolean isSound() {
            return record.reading.problems.size() == before;
        }

        /** What a constructor makes, or null, and why it does not. */
        <T> T made(Supplier<T> make) {
            try {
                return make.get();
            } catch (CreationException.OutOfLimit broken) {
                String text = broken.getMessage();
                record.reading.tell(
                        record,
                        step(broken.field()),
                        new RecordProblem(
                                "",
                                text,
                                broken.owner(),
                                broken.field(),
                                broken.limit(),
                                broken.bound(),
                                broken.value(),
                                -1));
            } catch (CreationException refused) {
                record.tell(refused.getMessage(), "refused", null, null);
            }
            return null;
        }

        /** What a factory by values makes, if it is of the kind that the record tells. */
        <T> T made(Class<T> kind, Supplier<?> make) {
            return made(
                    () -> {
                        Object product = make.get();
                        if (!kind.isInstance(product)) {
                            throw new CreationException.Refused(
                                    record.owner, "such values make another kind");
                        }
                        return kind.cast(product);
                    });
        }
    }

    private static int byCodePoint(String one, String other) {
        int[] ones = one.codePoints().toArray();
        int[] others = other.codePoints().toArray();
        return Arrays.compare(ones, others);
    }

    /** The known name that is likely meant: the same but for case, or the one that takes the fewest changes. */
    private static String nearest(String name, String... known) {
        for (String each : known) {
            if (each.equalsIgnoreCase(name)) {
                return each;
            }
        }
        int[] letters = name.codePoints().toArray();
        if (letters.length > FARTHEST) {
            return null;
        }
        String best = null;
        int fewest = Math.max(letters.length / 3, 1) + 1;
        for (String each : known) {
            int changes = distance(letters, each.codePoints().toArray());
            if (changes < fewest) {
                best = each;
                fewest = changes;
            }
        }
        return best;
    }

    /** How many code points have to be put in, dropped or replaced (Levenshtein). */
    private static int distance(int[] one, int[] other) {
        int[] row = new int[other.length + 1];
        Arrays.setAll(row, at -> at);
        for (int at = 0; at < one.length; at++) {
            int last = row[0];
            row[0] = at + 1;
            for (int place = 0; place < other.length; place++) {
                int changed = last + (one[at] == other[place] ? 0 : 1);
                last = row[place + 1];
                row[place + 1] = Math.min(Math.min(row[place + 1], row[place]) + 1, changed);
            }
        }
        return row[other.length];
    }

    /** The products that a list of records makes, and what is wrong with the others. */
    static <T> void createAll(
            Object records, Function<Object, T> read, List<T> made, List<RecordProblem> problems) {
        if (!(records instanceof List<?> values)) {
            String text = "the records are " + shown(records) + "; a list is wanted";
            problems.add(new RecordProblem("", text, "", "", "type", null, records, -1));
            return;
        }
        int at = 0;
        for (Object record : values) {
            try {
                made.add(read.apply(record));
            } catch (CreationException.BadRecord bad) {
                int place = at;
                problems.addAll(
                        bad.problems().stream()
                                .map(each -> each.at(numbered(place, each.path()), place))
                                .collect(Collectors.toList()));
            }
            at++;
        }
    }

    private static String numbered(int record, String path) {
        boolean isApart = !path.isEmpty() && !path.startsWith("[");
        return "[" + record + "]" + (isApart ? "." : "") + path;
    }
}
