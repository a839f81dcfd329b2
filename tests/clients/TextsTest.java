package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.junit.jupiter.api.Test;

/** Texts that are to have a form: ill-formed, endless, and just beside it. */
final class TextsTest {
    private static final String SITE = "https://port-varrow.example/";

    private static boolean keeps(Runnable make) {
        try {
            make.run();
            return true;
        } catch (CreationException.OutOfLimit broken) {
            assertEquals("pattern", broken.limit());
            return false;
        }
    }

    private static boolean isSign(String text) {
        return keeps(() -> new MarkCall(text, SITE));
    }

    private static boolean isName(String text) {
        return keeps(() -> new Fixed(text));
    }

    @Test
    void eachCharacterCountsOnce() {
        assertTrue(isSign("ABC"));
        assertFalse(isSign("ABC\n"));
        assertFalse(isSign("ABC\0"));
        assertFalse(isSign("\uff21\uff22\uff23"));
        assertTrue(isName("\u00c4" + "\ud83d\udedf".repeat(20)));
        assertFalse(isName("\u00c4" + "\ud83d\udedf".repeat(21)));
    }

    @Test
    void halfACharacterIsNone() {
        assertFalse(isName("A\ud83d"));
        assertFalse(isName("A\udedf!"));
    }

    @Test
    void aLongTextIsLookedAtOnce() {
        assertFalse(isName("A" + "a".repeat(10_000_000)));
    }
}
