package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.Duration;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Times, durations and decimal numbers: what the types of Java hold beside them, and texts that these would read. */
final class TidesTest {
    private static final LocalTime SIX = LocalTime.of(6, 0);
    private static final Duration HOUR = Duration.ofHours(1);

    /** A number that says something else each time. */
    private static final class Changing extends BigDecimal {
        private static final long serialVersionUID = 1L;
        private int asked;

        Changing() {
            super("1");
        }

        @Override
        public String toString() {
            return String.valueOf(++asked);
        }

        @Override
        public BigDecimal stripTrailingZeros() {
            return this;
        }
    }

    private static Tide tide(LocalTime turns, Duration runs, BigDecimal rises) {
        return new Tide(turns, runs, rises);
    }

    private static Tide rising(String number) {
        return tide(SIX, HOUR, new BigDecimal(number));
    }

    private static Tide read(String turns, String runs, String rises) {
        return Records.readTide(Map.of("turns", turns, "runs", runs, "rises", rises));
    }

    @Test
    void whatIsFinerOrFartherIsRefused() {
        for (LocalTime other : List.of(SIX.plusNanos(1), LocalTime.MAX)) {
            var refused = assertThrows(CreationException.OutOfLimit.class, () -> tide(other, HOUR, BigDecimal.ONE));
            assertEquals("time", refused.limit());
        }
        Duration most = Duration.ofDays(100_000);
        for (Duration other : List.of(HOUR.plusNanos(1), most.plusNanos(1000), most.negated().minusNanos(1000), Duration.ofSeconds(Long.MAX_VALUE, 999_999_999), Duration.ofSeconds(Long.MIN_VALUE))) {
            var refused = assertThrows(CreationException.OutOfLimit.class, () -> tide(SIX, other, BigDecimal.ONE));
            assertEquals("duration", refused.limit());
            assertTrue(refused.getMessage().length() < 200);
        }
        for (String other : List.of("1E+20", "1E-19", "1E+1000000000", "1E-1000000000", "123456789012345678901", "0.1234567890123456789")) {
            var refused = assertThrows(CreationException.OutOfLimit.class, () -> rising(other));
            assertEquals("decimal", refused.limit());
            assertTrue(refused.getMessage().length() < 200);
        }
        for (Duration one : List.of(most, most.negated(), Duration.ZERO)) {
            assertEquals(one, tide(SIX, one, BigDecimal.ONE).runs());
        }
    }

    @Test
    void theSameNumberIsTheSameProduct() {
        Tide kept = rising("1200.5");
        for (Tide again : List.of(rising("1200.50"), rising("12005E-1"), rising("1200.500000000000000000000000"))) {
            assertEquals(kept, again);
            assertEquals(kept.hashCode(), again.hashCode());
            assertEquals(kept.toString(), again.toString());
        }
        assertEquals("0", rising("0.00").rises().toString());
        assertEquals("1000", rising("1E+3").rises().toString());
        assertEquals(new BigDecimal("-20000"), tide(SIX, HOUR, new BigDecimal(BigInteger.valueOf(-2), -4)).rises());
    }

    @Test
    void aNumberThatCanChangeIsRefused() {
        var refused = assertThrows(CreationException.OutOfLimit.class, () -> tide(SIX, HOUR, new Changing()));
        assertEquals("decimal", refused.limit());
    }

    @Test
    void textsAreReadInOneForm() {
        for (String text : List.of("06:00", "24:00:00", "6:00:00", "06:00:00.1234567", "06:00:00Z", "０６:00:00")) {
            assertThrows(CreationException.BadRecord.class, () -> read(text, "PT1H", "1"));
        }
        for (String text : List.of("P", "PT", "P1DT", "PT+1H", "+PT1H", "PT-1H", "pt1h", "P1M", "PT1.5H", "PT9999999999S", "P100001D")) {
            assertThrows(CreationException.BadRecord.class, () -> read("06:00:00", text, "1"));
        }
        for (String text : List.of("1e3", "+1", ".5", "5.", "01", "NaN", "1 ", "１")) {
            assertThrows(CreationException.BadRecord.class, () -> read("06:00:00", "PT1H", text));
        }
        Tide whole = tide(SIX, HOUR, BigDecimal.ONE);
        assertEquals(whole, read("06:00:00.000", "PT3600.000S", "1.000"));
        assertEquals(whole, read("06:00:00", "PT60M", "1.0"));
        assertEquals(Duration.ofDays(-7), read("06:00:00", "-P1W", "1").runs());
    }

    @Test
    void whatIsWrittenHasOneForm() {
        Map<String, Object> record = Records.writeTide(tide(LocalTime.of(6, 30, 0, 250_000_000), Duration.ofMillis(-89_500), new BigDecimal("-0.50")));
        assertEquals(List.of("06:30:00.25", "-PT1M29.5S", "-0.5"), List.of(record.get("turns"), record.get("runs"), record.get("rises")));
        Map<String, Object> other = Records.writeTide(tide(SIX, Duration.ZERO, new BigDecimal("1E+19")));
        assertEquals(List.of("06:00:00", "PT0S", "10000000000000000000"), List.of(other.get("turns"), other.get("runs"), other.get("rises")));
    }
}
