package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What the tests of records share. */
final class SharedRecords {
    private SharedRecords() {}

    /** A record, of names and values in turn. */
    static Map<String, Object> tree(Object... namesAndValues) {
        Map<String, Object> tree = new LinkedHashMap<>();
        for (int at = 0; at < namesAndValues.length; at += 2) {
            tree.put((String) namesAndValues[at], namesAndValues[at + 1]);
        }
        return tree;
    }

    /** A list, of which elements may be null. */
    static List<Object> items(Object... values) {
        return Arrays.asList(values);
    }

    /** No product is made of a record, for just these reasons. */
    static void notMade(List<String> problems, Runnable read) {
        CreationException.BadRecord bad =
                assertThrows(CreationException.BadRecord.class, read::run);
        assertEquals(problems, said(bad.problems()));
    }

    static List<String> said(List<RecordProblem> problems) {
        return problems.stream().map(RecordProblem::toString).toList();
    }
}
