package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Records from JSON text. */
final class OfJsonTest {
    private static List<String> lines(String name) throws IOException {
        return Files.readAllLines(Path.of("DATA_FOLDER", name));
    }

    private static Object parsed(String name) throws IOException {
        try (InputStream text = Files.newInputStream(Path.of("DATA_FOLDER", name))) {
            return JsonRecords.parse(text);
        }
    }

    @Test
    void aFileIsMadeIntoProducts() throws IOException {
        var all = Records.createAll(parsed("records.json"), Records::readMark);
        assertEquals(lines("problems.txt"), all.problems().stream().map(String::valueOf).toList());
        assertEquals(
                lines("written.txt"),
                all.made().stream().map(mark -> Records.toText(Records.writeMark(mark))).toList());
    }

    @Test
    void whatNobodyShouldSendIsTold() throws IOException {
        List<String> expected = lines("hostile.txt");
        for (int at = 0; at < expected.size(); at++) {
            assertEquals(expected.get(at), told(at + ".json"), at + ".json");
        }
    }

    private static String told(String name) throws IOException {
        try {
            Records.readMark(parsed(name));
            return "none ";
        } catch (CreationException.BadRecord wrong) {
            return wrong.problems().stream()
                    .map(problem -> problem.limit() + " " + problem.path())
                    .collect(Collectors.joining(", "));
        }
    }

    @Test
    void aTextIsReadAsItsBytesAre() throws IOException {
        String text = Files.readString(Path.of("DATA_FOLDER", "records.json"));
        assertEquals(parsed("records.json"), JsonRecords.parse(text));
    }

    @Test
    void depthIsBounded() throws IOException {
        Object deep = parsed("deep.json");
        var error = assertThrows(CreationException.BadRecord.class, () -> Records.readPlan(deep));
        assertEquals(
                List.of("depth"),
                error.problems().stream().map(RecordProblem::limit).distinct().toList());
    }
}
