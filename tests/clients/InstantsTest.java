package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Points in time: what Instant holds beside them, and texts that it would read. */
final class InstantsTest {
    private static final Instant NOON = Instant.parse("2026-12-01T12:00:00Z");
    private static final LocalDate DAY = LocalDate.of(2026, 12, 1);

    private static Instant read(String text) {
        return Records.readTide(Map.of("turned", text, "metres", 1.0, "day", "2026-12-01")).turned();
    }

    @Test
    void whatIsFinerOrFartherIsRefused() {
        Instant first = Instant.parse("0001-01-01T00:00:00Z");
        Instant last = Instant.parse("9999-12-31T23:59:59.999999Z");
        for (Instant other : List.of(NOON.plusNanos(1), NOON.minusNanos(1), first.minusNanos(1000), last.plusNanos(1000), Instant.MIN, Instant.MAX)) {
            var refused = assertThrows(CreationException.OutOfLimit.class, () -> new Tide(other, 1.0, DAY));
            assertEquals("instant", refused.limit());
        }
        for (Instant one : List.of(first, last)) {
            assertEquals(one, new Tide(one, 1.0, DAY).turned());
        }
    }

    @Test
    void textsAreReadInOneForm() {
        for (String text : List.of("2026-12-01T12:00Z", "2026-12-01T12:00:00", "+12026-12-01T12:00:00Z", "2026-12-01T12:00:00Z[UTC]", "0001-01-01T00:00:00+00:01", "9999-12-31T23:59:59-00:01", "2026-12-01T1２:00:00Z")) {
            assertThrows(CreationException.BadRecord.class, () -> read(text));
        }
        for (String text : List.of("2026-12-01t12:00:00z", "2026-12-01T12:00:00.000-00:00", "2026-12-02T11:59:00+23:59", "2026-11-30T12:01:00-23:59")) {
            assertEquals(NOON, read(text));
        }
    }

    @Test
    void whatIsWrittenHasNoZerosAtItsEnd() {
        for (String text : List.of("2026-12-01T12:00:00Z", "2026-12-01T12:00:10.1Z", "1969-12-31T23:59:59.999999Z", "2026-12-01T12:00:00.00001Z")) {
            assertEquals(text, Records.writeTide(new Tide(Instant.parse(text), 1.0, DAY)).get("turned"));
        }
    }
}
