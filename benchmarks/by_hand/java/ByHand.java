import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentMap;

/** What a careful author writes by hand for the same jobs in Java: the yardstick of {@code generated.py}. */
final class ByHand {
    private ByHand() {}

    enum Side { PORT, STARBOARD }

    static final class Limit extends IllegalArgumentException {
        private static final long serialVersionUID = 1L;

        Limit(String owner, String field, String limit, Object bound) {
            super(owner + "." + field + ": breaks " + limit + " " + bound);
        }
    }

    static void that(boolean holds, String owner, String field, String limit, Object bound) {
        if (!holds) {
            throw new Limit(owner, field, limit, bound);
        }
    }

    static void given(String owner, String field, Object value) {
        if (value == null) {
            throw new IllegalArgumentException(owner + ": missing " + field);
        }
    }

    record Position(double latitude, double longitude) {
        Position {
            that(Double.isFinite(latitude), "Position", "latitude", "finite", null);
            that(latitude >= -90, "Position", "latitude", "min", -90.0);
            that(latitude <= 90, "Position", "latitude", "max", 90.0);
            that(Double.isFinite(longitude), "Position", "longitude", "finite", null);
            that(longitude >= -180, "Position", "longitude", "min", -180.0);
            that(longitude <= 180, "Position", "longitude", "max", 180.0);
            latitude += 0.0;
            longitude += 0.0;
        }
    }

    static boolean isBlank(String text) {
        for (int at = 0; at < text.length(); at++) {
            char unit = text.charAt(at);
            if (unit != ' ' && (unit < '\t' || unit > '\r')) {
                return false;
            }
        }
        return true;
    }

    static final class MarkOptions {
        private Side side;
        private String remarks;
        private Boolean reflective;

        MarkOptions remarks(String remarks) {
            this.remarks = remarks;
            return this;
        }
    }

    abstract static class Mark {
        abstract String key();

        private final long station;
        private final Position position;
        private final Side side;
        private final String remarks;
        private final boolean reflective;

        Mark(long station, Position position, MarkOptions options) {
            given("Mark", "position", position);
            that(station >= 1, "Mark", "station", "min", 1);
            that(station <= 9999, "Mark", "station", "max", 9999);
            String remarks = options.remarks;
            if (remarks != null) {
                that(remarks.codePointCount(0, remarks.length()) <= 200, "Mark", "remarks", "max_length", 200);
            }
            this.station = station;
            this.position = position;
            this.side = options.side;
            this.remarks = remarks;
            this.reflective = options.reflective == null || options.reflective;
        }
    }

    static final class Buoy extends Mark {
        private final double draught;

        Buoy(long station, Position position, MarkOptions options) {
            this(station, position, options, 1.5);
        }

        Buoy(long station, Position position, MarkOptions options, double draught) {
            super(station, position, options);
            that(Double.isFinite(draught), "Buoy", "draught", "finite", null);
            that(draught > 0, "Buoy", "draught", "above", 0.0);
            this.draught = draught + 0.0;
        }

        @Override
        String key() {
            return "buoy";
        }
    }

    interface Maker {
        Mark make(long station, Position position, MarkOptions options);
    }

    static final class MarkRegistry {
        private final ConcurrentMap<String, Maker> makers = new ConcurrentHashMap<>();

        MarkRegistry() {
            makers.put("buoy", Buoy::new);
        }

        Mark make(String key, long station, Position position, MarkOptions options) {
            Maker maker = makers.get(key);
            if (maker == null) {
                throw new IllegalArgumentException("unknown key " + key);
            }
            return maker.make(station, position, options);
        }
    }

    static final class Leg {
        private String label;
        private double hours;

        Leg(String label, double hours) {
            setLabel(label);
            that(Double.isFinite(hours), "Leg", "hours", "finite", null);
            that(hours >= 0, "Leg", "hours", "min", 0.0);
            this.hours = hours + 0.0;
        }

        void setLabel(String label) {
            given("Leg", "label", label);
            that(!isBlank(label), "Leg", "label", "not_blank", null);
            this.label = label;
        }

        private Leg(Leg original) {
            label = original.label;
            hours = original.hours;
        }

        Leg copy() {
            return new Leg(this);
        }
    }

    static List<Leg> copies(List<Leg> legs) {
        List<Leg> own = new ArrayList<>(legs.size());
        for (Leg leg : legs) {
            given("RefitPlan", "legs", leg);
            own.add(leg.copy());
        }
        return Collections.unmodifiableList(own);
    }

    static final class RefitPlan {
        private final String title;
        private final List<Leg> legs;
        private final long crew;
        private final List<String> tags;
        private final List<Object> sheets;
        private final Object chart;
        private final Long serial;

        private RefitPlan(Builder from) {
            that(!isBlank(from.title), "RefitPlan", "title", "not_blank", null);
            that(from.legs.size() >= 1, "RefitPlan", "legs", "min_length", 1);
            title = from.title;
            legs = copies(from.legs);
            crew = from.crew == null ? 2 : from.crew;
            that(crew >= 1, "RefitPlan", "crew", "min", 1);
            tags = held("tags", from.tags);
            sheets = held("sheets", from.sheets);
            chart = from.chart;
            serial = from.serial;
            if (serial != null) {
                that(serial >= 1, "RefitPlan", "serial", "min", 1);
            }
        }

        private static <T> List<T> held(String field, List<T> values) {
            if (values == null) {
                return List.of();
            }
            List<T> own = new ArrayList<>(values);
            for (T value : own) {
                given("RefitPlan", field, value);
            }
            return Collections.unmodifiableList(own);
        }

        private RefitPlan(RefitPlan original) {
            title = original.title;
            legs = copies(original.legs);
            crew = original.crew;
            tags = original.tags;
            sheets = original.sheets;
            chart = original.chart;
            serial = null;
        }

        RefitPlan copy() {
            return new RefitPlan(this);
        }
    }

    static final class Builder {
        private String title;
        private List<Leg> legs;
        private Long crew;
        private List<String> tags;
        private List<Object> sheets;
        private Object chart;
        private Long serial;

        Builder title(String title) {
            this.title = title;
            return this;
        }

        Builder crew(long crew) {
            this.crew = crew;
            return this;
        }

        Builder tags(List<String> tags) {
            this.tags = new ArrayList<>(tags);
            return this;
        }

        Builder addLeg(Leg leg) {
            if (legs == null) {
                legs = new ArrayList<>();
            }
            legs.add(leg.copy());
            return this;
        }

        RefitPlan build() {
            List<String> missing = new ArrayList<>(0);
            if (title == null) {
                missing.add("title");
            }
            if (legs == null) {
                missing.add("legs");
            }
            if (!missing.isEmpty()) {
                throw new IllegalArgumentException("missing " + String.join(", ", missing));
            }
            return new RefitPlan(this);
        }
    }
}
