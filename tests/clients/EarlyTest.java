package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.util.List;
import org.junit.jupiter.api.Test;

/** Builders that the compiler leads from one required field to the next. */
final class EarlyTest {
    private static final List<Leg> LEGS = List.of(new Leg("bar", 2));

    /** Takes a builder that needs a berth at most. */
    private static RefitPlan moored(RefitPlan.NeedsBerth<RefitPlan.Builder> builder) {
        return builder.berth("north").build();
    }

    @Test
    void requiredFieldsComeInTheirOrder() {
        RefitPlan plan = RefitPlan.Builder.begin().berth("north").crew(3).addLeg(LEGS.get(0)).urgent(true).build();
        assertEquals(3, plan.crew());
        assertEquals(moored(RefitPlan.Builder.shortHanded()), moored(RefitPlan.Builder.like(
                RefitPlan.Builder.shortHanded().berth("south").build())));
    }

    @Test
    void aBuilderBuildsAgainWithOneThingChanged() {
        RefitPlan.Builder builder = RefitPlan.Builder.spring().berth("north").legs(LEGS);
        RefitPlan first = builder.build();
        RefitPlan second = builder.addLeg(new Leg("pier", 1)).build();
        assertEquals(List.of(1, 2), List.of(first.legs().size(), second.legs().size()));
    }

    @Test
    void whatTheCompilerTakesForGivenMayBeNull() {
        RefitPlan.Builder builder = RefitPlan.Builder.begin().berth(null).crew(3).legs(null);
        var missing = assertThrows(CreationException.MissingFields.class, builder::build);
        assertEquals(List.of("berth", "legs"), missing.fields());
        assertEquals("north", builder.berth("north").legs(LEGS).build().berth());
    }

    @Test
    void anEmptiedBuilderKeepsItsTypeAndNothingElse() {
        Logbook.Builder builder = Logbook.Builder.begin().keeper("Ines").pages(3);
        assertEquals(3, builder.build().pages());
        assertThrows(CreationException.MissingFields.class, builder::build);
    }
}
