import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadFeature;
import java.io.ByteArrayInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.IntSupplier;
import logbook.JsonRecords;
import logbook.Records;

/** Reads the file both ways: by the generated package, and by Jackson straight into records, with checks by hand. */
final class Reading {
    private static final Map<String, String> SIDES =
            Map.of("P", "port", "S (to starboard)", "starboard", "middle", "middle");
    private static final JsonFactory JSON =
            JsonFactory.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

    record Position(double latitude, double longitude) {}

    record Mark(
            String kind,
            long station,
            Position position,
            String side,
            String remarks,
            boolean reflective,
            String password,
            Double draught) {}

    private static void check(boolean holds, String what) {
        if (!holds) {
            throw new IllegalArgumentException(what);
        }
    }

    private static double number(JsonParser parser, double low, double high) throws Exception {
        JsonToken token = parser.nextToken();
        check(token == JsonToken.VALUE_NUMBER_INT || token == JsonToken.VALUE_NUMBER_FLOAT, "number");
        double value = parser.getDoubleValue();
        check(value >= low && value <= high, "range");
        return value;
    }

    private static String text(JsonParser parser, int low, int high) throws Exception {
        check(parser.nextToken() == JsonToken.VALUE_STRING, "text");
        String value = parser.getText();
        int length = value.codePointCount(0, value.length());
        check(length >= low && length <= high, "length");
        return value;
    }

    private static Position position(JsonParser parser) throws Exception {
        check(parser.nextToken() == JsonToken.START_OBJECT, "position");
        double latitude = Double.NaN;
        double longitude = Double.NaN;
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            switch (parser.currentName()) {
                case "lat" -> latitude = number(parser, -90, 90);
                case "lon (°)" -> longitude = number(parser, -180, 180);
                default -> throw new IllegalArgumentException("unknown");
            }
        }
        check(latitude == latitude && longitude == longitude, "missing");
        return new Position(latitude, longitude);
    }

    private static Mark mark(JsonParser parser) throws Exception {
        String kind = null;
        long station = 0;
        Position position = null;
        String side = null;
        String remarks = null;
        Boolean reflective = null;
        String password = null;
        Double draught = null;
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            switch (parser.currentName()) {
                case "type" -> kind = text(parser, 0, 9);
                case "station" -> {
                    check(parser.nextToken() == JsonToken.VALUE_NUMBER_INT, "station");
                    station = parser.getLongValue();
                    check(station >= 1 && station <= 9999, "station");
                }
                case "position" -> position = position(parser);
                case "side" -> {
                    side = SIDES.get(text(parser, 0, 99));
                    check(side != null, "side");
                }
                case "toString" -> remarks = text(parser, 0, 20);
                case "reflective" -> {
                    parser.nextToken();
                    reflective = parser.getBooleanValue();
                }
                case "password" -> password = text(parser, 3, Integer.MAX_VALUE);
                case "draught" -> draught = number(parser, Double.MIN_VALUE, Double.MAX_VALUE);
                default -> throw new IllegalArgumentException("unknown");
            }
        }
        boolean isBuoy = "B-1".equals(kind) || "buoy".equals(kind);
        check(isBuoy || ("BCN".equals(kind) && draught == null), "kind");
        check(station > 0 && position != null, "missing");
        return new Mark(
                kind,
                station,
                position,
                side,
                remarks,
                reflective == null ? isBuoy : reflective,
                password,
                isBuoy && draught == null ? Double.valueOf(1.5) : draught);
    }

    private static int byHand(byte[] text) {
        List<Mark> marks = new ArrayList<>();
        try (JsonParser parser = JSON.createParser(text)) {
            check(parser.nextToken() == JsonToken.START_ARRAY, "list");
            while (parser.nextToken() != JsonToken.END_ARRAY) {
                marks.add(mark(parser));
            }
            check(parser.nextToken() == null, "end");
        } catch (Exception wrong) {
            throw new IllegalStateException(wrong);
        }
        return marks.size();
    }

    private static int generated(byte[] text) {
        try {
            var all = Records.createAll(JsonRecords.parse(new ByteArrayInputStream(text)), Records::readMark);
            check(all.problems().isEmpty(), "problems");
            return all.made().size();
        } catch (Exception wrong) {
            throw new IllegalStateException(wrong);
        }
    }

    private static double milliseconds(IntSupplier job, int count) {
        long start = System.nanoTime();
        check(job.getAsInt() == count, "some are missing");
        return (System.nanoTime() - start) / 1e6;
    }

    private static double median(List<Double> all) {
        return all.stream().sorted().skip(all.size() / 2).findFirst().orElseThrow();
    }

    public static void main(String[] given) throws Exception {
        byte[] text = Files.readAllBytes(Path.of(given[0]));
        int count = Integer.parseInt(given[1]);
        List<Double> own = new ArrayList<>();
        List<Double> hand = new ArrayList<>();
        List<Double> ratios = new ArrayList<>();
        for (int round = 0; round < 400; round++) {
            double a = milliseconds(() -> generated(text), count);
            double b = milliseconds(() -> byHand(text), count);
            if (round >= 250) {
                own.add(a);
                hand.add(b);
                ratios.add(a / b);
            }
        }
        System.out.println(median(own) + " " + median(hand) + " " + median(ratios));
    }
}
