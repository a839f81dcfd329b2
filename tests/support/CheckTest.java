package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.ObjectInputStream;
import java.io.ObjectOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

final class CheckTest {
    @Test
    void missingNamesAllAtOnce() {
        var failure =
                assertThrows(
                        CreationException.MissingFields.class,
                        () -> new Missing("Buoy").unless("a", null).unless("b", 1).unless("c", null).refuse());
        assertEquals("Buoy: missing a, c", failure.getMessage());
        assertEquals("given", new Missing("Buoy").unless("b", 1).orElse("given"));
    }

    @Test
    void blankIsSixCharacters() {
        assertTrue(Check.isBlank(""));
        assertTrue(Check.isBlank(" \t\n\u000b\f\r"));
        for (String text : List.of("\u00a0", "\u0085", "\u2028", "\u001c")) {
            assertFalse(Check.isBlank(text));
        }
    }

    @Test
    void lengthsCountCodePoints() {
        assertEquals(2, Check.length("\ud83d\udedf!"));
    }

    @Test
    void textsAreOrderedByCodePoint() {
        List<String> texts = new ArrayList<>(List.of("\ud83d\udedf", "\uffff", "b", "a"));
        texts.sort(Check.BY_CODE_POINT);
        assertEquals(List.of("a", "b", "\uffff", "\ud83d\udedf"), texts);
    }

    @Test
    void minusNothingIsNothing() {
        assertEquals(0.0, Check.finite("X", "f", "finite", -0.0));
        assertThrows(CreationException.OutOfLimit.class, () -> Check.finite("X", "f", "finite", Double.NaN));
    }

    @Test
    void collectionsAreOwnAndWithoutNulls() {
        List<String> given = new ArrayList<>(List.of("a"));
        List<String> held = Check.list("X", "f", given);
        given.clear();
        assertEquals(List.of("a"), held);
        assertThrows(UnsupportedOperationException.class, held::clear);
        assertThrows(
                CreationException.MissingFields.class, () -> Check.list("X", "f", Arrays.asList("a", null)));
        Set<Long> set = Check.set("X", "f", List.of(3L, 1L, 3L), Comparator.naturalOrder());
        assertEquals("[1, 3]", set.toString());
        Map<String, Long> map = new HashMap<>();
        map.put("a", null);
        assertThrows(
                CreationException.MissingFields.class,
                () -> Check.map("X", "f", map, Check.BY_CODE_POINT, each -> each));
    }

    @Test
    void failuresCanBeSerialised() throws Exception {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        new ObjectOutputStream(bytes).writeObject(new CreationException.UnknownKey("Mark", "a", List.of("x")));
        Object read = new ObjectInputStream(new ByteArrayInputStream(bytes.toByteArray())).readObject();
        assertEquals(List.of("x"), ((CreationException.UnknownKey) read).known());
    }
}
