package PACKAGE;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonStreamContext;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Records from JSON text, which Jackson reads. */
public final class JsonRecords {
    private static final JsonFactory JSON = new JsonFactory();
    private static final int MOST_LEVELS = 500; // more than any product is read of

    private final JsonParser parser;
    private final List<RecordProblem> problems = new ArrayList<>();

    private JsonRecords(JsonParser parser) {
        this.parser = parser;
    }

    /**
     * Reads the record of a JSON text (RFC 8259).
     *
     * @param text the text
     * @return a map, a list, or what else a text may hold
     * @throws CreationException.BadRecord for what is no JSON, with its place, for what follows
     *     after the end, and for names that stand twice
     */
    public static Object parse(String text) {
        try {
            return whole(JSON.createParser(new StringReader(text)));
        } catch (IOException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    /**
     * Reads the record of a JSON text (RFC 8259) in UTF-8.
     *
     * @param text the bytes, which are read to their end
     * @return a map, a list, or what else a text may hold
     * @throws CreationException.BadRecord for what is no JSON, with its place, for bytes that are no
     *     UTF-8, for what follows after the end, and for names that stand twice
     * @throws IOException if the bytes cannot be read
     */
    public static Object parse(InputStream text) throws IOException {
        return whole(JSON.createParser(text));
    }

    private static Object whole(JsonParser parser) throws IOException {
        try (parser) {
            JsonRecords reading = new JsonRecords(parser);
            Object record = reading.first();
            if (!reading.problems.isEmpty()) {
                throw new CreationException.BadRecord("JSON", reading.problems);
            }
            return record;
        } catch (JsonProcessingException wrong) {
            JsonLocation at = wrong.getLocation();
            String place = "line " + at.getLineNr() + ", column " + at.getColumnNr() + ": ";
            throw refused(place + wrong.getOriginalMessage());
        }
    }

    private static CreationException.BadRecord refused(String said) {
        return new CreationException.BadRecord("JSON", List.of(problem("", said, "", "text")));
    }

    private static RecordProblem problem(String path, String said, String field, String limit) {
        return new RecordProblem(path, said, "JSON", field, limit, null, null, -1);
    }

    private Object first() throws IOException {
        if (parser.nextToken() == null) {
            throw refused("there is nothing");
        }
        Object record = value(0);
        if (parser.nextToken() != null) {
            throw refused("more follows after its end");
        }
        return record;
    }

    private Object value(int level) throws IOException {
        return switch (parser.currentToken()) {
            case START_OBJECT -> object(inner(level));
            case START_ARRAY -> list(inner(level));
            case VALUE_STRING -> parser.getText();
            case VALUE_NUMBER_INT -> parser.getNumberValue();
            case VALUE_NUMBER_FLOAT -> parser.getDoubleValue();
            case VALUE_TRUE -> true;
            case VALUE_FALSE -> false;
            default -> null;
        };
    }

    private static int inner(int level) {
        if (level == MOST_LEVELS) {
            throw refused("this is more than " + MOST_LEVELS + " levels deep");
        }
        return level + 1;
    }

    private Map<String, Object> object(int level) throws IOException {
        Map<String, Object> entries = new LinkedHashMap<>();
        while (parser.nextToken() != JsonToken.END_OBJECT) {
            String name = parser.currentName();
            if (entries.containsKey(name)) {
                String path = path(parser.getParsingContext());
                String from = path.startsWith(".") ? path.substring(1) : path;
                problems.add(problem(from, "this name stands there twice", name, "twice"));
            }
            parser.nextToken();
            entries.put(name, value(level));
        }
        return entries;
    }

    private List<Object> list(int level) throws IOException {
        List<Object> elements = new ArrayList<>();
        while (parser.nextToken() != JsonToken.END_ARRAY) {
            elements.add(value(level));
        }
        return elements;
    }

    private static String path(JsonStreamContext place) {
        if (place.inRoot()) {
            return "";
        }
        String above = path(place.getParent());
        return above
                + (place.inObject()
                        ? Reading.step(place.getCurrentName())
                        : "[" + place.getCurrentIndex() + "]");
    }
}
