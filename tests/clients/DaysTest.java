package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Days: what LocalDate holds beside them, and texts that it would read. */
final class DaysTest {
    private static final LocalDate DAY = LocalDate.of(2026, 12, 1);

    private static void refused(LocalDate day) {
        var refused = assertThrows(CreationException.OutOfLimit.class, () -> new Tide(day, 1.0));
        assertEquals("date", refused.limit());
    }

    @Test
    void other_years_are_refused() {
        for (LocalDate day : List.of(LocalDate.MIN, LocalDate.of(0, 12, 31), LocalDate.of(10000, 1, 1), LocalDate.MAX)) {
            refused(day);
        }
        for (LocalDate day : List.of(LocalDate.of(1, 1, 1), LocalDate.of(9999, 12, 31))) {
            assertEquals(day, new Tide(day, 1.0).day());
        }
    }

    @Test
    void texts_are_read_in_one_form() {
        for (String text : List.of("+12026-12-01", "-2026-12-01", "0000-12-01", "2026-12-1", "2026-12-0١", "２０２６-12-01")) {
            assertThrows(
                    CreationException.BadRecord.class, () -> Records.readTide(Map.of("day", text, "metres", 1.0)));
        }
        assertEquals(DAY, Records.readTide(Map.of("day", "2026-12-01", "metres", 1.0)).day());
        assertThrows(CreationException.BadRecord.class, () -> Records.readTide(Map.of("day", DAY, "metres", 1.0)));
    }
}
