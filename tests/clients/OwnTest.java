package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Kinds with fields of their own, asked for by key. */
final class OwnTest {
    private static final Map<String, ?> PIER =
            Map.of("name", "pier", "periodMs", 4, "sectors", List.of(Map.of("from_degrees", 10)));

    @Test
    void aKeyTakesARecordOfTheFieldsOfItsKind() {
        Light light = (Light) Mark.of("T1", PIER);
        assertEquals(4, light.period());
        assertEquals(10.0, light.sectors().get(0).fromDegrees());
        assertEquals(Mark.of("light", PIER), light);
    }

    @Test
    void everythingThatIsWrongIsTold() {
        var wrong =
                assertThrows(
                        CreationException.BadRecord.class,
                        () -> Mark.of("light", Map.of("name", "far too long", "draught", 1)));
        assertEquals(
                List.of("name", "periodMs", "sectors", "draught"),
                wrong.problems().stream().map(RecordProblem::path).toList());
        assertThrows(CreationException.UnknownKey.class, () -> Mark.of("lihgt", PIER));
    }

    @Test
    void aRegistryTakesKindsWithFieldsOfTheirOwn() {
        TideRegistry registry = new TideRegistry();
        registry.register(
                "spring",
                record -> {
                    Map<?, ?> fields = (Map<?, ?>) record;
                    return new High((String) fields.get("station"), ((Number) fields.get("rise")).doubleValue());
                });
        Map<String, ?> record = Map.of("type", "spring", "station", "Quay", "rise", 5.5);
        assertEquals(new High("Quay", 5.5), Records.readTideWith(registry, record));
        assertEquals(new High("Quay", 1.0), registry.make("high", Map.of("station", "Quay", "metres", 1)));
        var wrong =
                assertThrows(
                        CreationException.BadRecord.class,
                        () -> Records.readTideWith(registry, Map.of("type", "high", "metres", -1)));
        assertEquals(2, wrong.problems().size());
    }
}
