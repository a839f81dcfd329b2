package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Records that stand in a file, as a JSON library would hand them out. */
class OfAFileTest {
    /** A kind that nobody declared. */
    private static final class Raft extends Mark {
        Raft(long station, Position position, Options options) {
            super(station, position, options, true);
        }

        @Override
        public String key() {
            return "raft";
        }

        @Override
        public String chartLabel() {
            return "raft";
        }
    }

    private static List<String> lines(String name) throws IOException {
        return Files.readAllLines(Path.of("DATA_FOLDER", name));
    }

    private static Object tree(String name) throws IOException {
        Iterator<String> steps = lines(name).iterator();
        return tree(steps, steps.next());
    }

    private static Object tree(Iterator<String> steps, String step) {
        String[] parts = step.split(" ", -1);
        switch (parts[0]) {
            case "integer":
                return Long.parseLong(parts[1]);
            case "real":
                return Double.parseDouble(parts[1]);
            case "text":
                return new String(HexFormat.of().parseHex(parts[1]), StandardCharsets.UTF_8);
            case "list":
                List<Object> list = new ArrayList<>();
                for (String next = steps.next(); !next.equals("end"); next = steps.next()) {
                    list.add(tree(steps, next));
                }
                return list;
            case "object":
                Map<String, Object> object = new LinkedHashMap<>();
                for (String next = steps.next(); !next.equals("end"); next = steps.next()) {
                    String key = (String) tree(steps, next);
                    object.put(key, tree(steps, steps.next()));
                }
                return object;
            default:
                return parts[0].equals("null") ? null : Boolean.valueOf(parts[0]);
        }
    }

    private static List<String> texts(List<Mark> marks) {
        return marks.stream().map(mark -> Records.toText(Records.writeMark(mark))).toList();
    }

    @Test
    void aFileIsMadeIntoProducts() throws IOException {
        var all = Records.createAll(tree("records.steps"), Records::readMark);
        assertEquals(lines("problems.txt"), all.problems().stream().map(String::valueOf).toList());
        assertEquals(lines("written.txt"), texts(all.made()));
    }

    @Test
    void whatIsWrittenIsReadByEveryOther() throws IOException {
        var all = Records.createAll(tree("again.steps"), Records::readMark);
        assertEquals(List.of(), all.problems());
        assertEquals(lines("written.txt"), texts(all.made()));
    }

    @Test
    void aKindOfOnesOwnIsWrittenWithWhatAllKindsHave() {
        Mark.Options options = new Mark.Options();
        options.remarks("two, tied");
        Mark raft = new Raft(3, new Position(54.5, 8.25), options);
        assertEquals(
                "{\"type\":\"raft\",\"station\":3,\"position\":{\"lat\":54.5,\"lon (°)\":8.25},\"toString\":\"two, tied\"}",
                Records.toText(Records.writeMark(raft)));
    }

    @Test
    void depthIsBounded() throws IOException {
        Object deep = tree("deep.steps");
        var error = assertThrows(CreationException.BadRecord.class, () -> Records.readPlan(deep));
        assertEquals(
                List.of("depth"),
                error.problems().stream().map(RecordProblem::limit).distinct().toList());
    }
}
