import harbour.varrow.fairway.Leg;
import harbour.varrow.fairway.LightRhythm;
import harbour.varrow.fairway.LightRhythmPool;
import harbour.varrow.fairway.Mark;
import harbour.varrow.fairway.MarkRegistry;
import harbour.varrow.fairway.Position;
import harbour.varrow.fairway.RefitPlan;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Supplier;

/** Measures the generated Java beside {@link ByHand}; one line a job: name, ratio, nanoseconds. */
final class Measure {
    private static final int ROUNDS = 21;
    private static Object kept; // keeps the compiler from leaving work out

    private Measure() {}

    private static double timed(int times, Supplier<Object> job) {
        long started = System.nanoTime();
        for (int i = 0; i < times; i++) {
            kept = job.get();
        }
        return (System.nanoTime() - started) / (double) times;
    }

    private static void compare(String name, int times, Supplier<Object> one, Supplier<Object> other) {
        for (int i = 0; i < 10; i++) {
            timed(times, one);
            timed(times, other);
        }
        double[] ratios = new double[ROUNDS];
        double[] nanoseconds = new double[ROUNDS];
        for (int i = 0; i < ROUNDS; i++) {
            nanoseconds[i] = timed(times, one);
            ratios[i] = nanoseconds[i] / timed(times, other);
        }
        Arrays.sort(ratios);
        Arrays.sort(nanoseconds);
        System.out.printf("%s %.3f %.0f%n", name, ratios[ROUNDS / 2], nanoseconds[ROUNDS / 2]);
    }

    public static void main(String[] arguments) {
        var position = new Position(54.5, 10.25);
        var byHand = new ByHand.Position(54.5, 10.25);
        var registry = new MarkRegistry();
        var ownRegistry = new ByHand.MarkRegistry();
        compare(
                "factory",
                200_000,
                () -> registry.make("buoy", 17, position, new Mark.Options().remarks("none")),
                () -> ownRegistry.make("buoy", 17, byHand, new ByHand.MarkOptions().remarks("none")));
        var leg = new Leg("Inspect");
        var ownLeg = new ByHand.Leg("Inspect", 0.0);
        String[] labels = {"lantern", "mooring", "paint", "topmark"};
        var at = new int[2];
        compare(
                "position",
                1_000_000,
                () -> new Position(at[0]++ % 90, 10.25),
                () -> new ByHand.Position(at[1]++ % 90, 10.25));
        compare(
                "leg",
                1_000_000,
                () -> new Leg(labels[at[0]++ & 3], new Leg.Options().hours(1)),
                () -> new ByHand.Leg(labels[at[1]++ & 3], 1));
        compare(
                "setter",
                1_000_000,
                () -> {
                    leg.setLabel(labels[at[0]++ & 3]);
                    return leg;
                },
                () -> {
                    ownLeg.setLabel(labels[at[1]++ & 3]);
                    return ownLeg;
                });
        var tags = List.of("ice", "north");
        compare(
                "builder",
                100_000,
                () -> new RefitPlan.Builder()
                        .title("Winter").crew(3).tags(tags).addLeg(leg).addLeg(leg).addLeg(leg).build(),
                () -> new ByHand.Builder()
                        .title("Winter").crew(3).tags(tags).addLeg(ownLeg).addLeg(ownLeg).addLeg(ownLeg).build());
        List<Leg> legs = new ArrayList<>();
        var ownBuilder = new ByHand.Builder().title("Winter");
        for (int i = 0; i < 50; i++) {
            legs.add(leg);
            ownBuilder.addLeg(ownLeg);
        }
        var plan = new RefitPlan("Winter", legs);
        var ownPlan = ownBuilder.build();
        compare("clone", 20_000, plan::copy, ownPlan::copy);
        var pool = new LightRhythmPool();
        record Key(String code, long period) {}
        var map = new ConcurrentHashMap<Key, LightRhythm>();
        map.put(new Key("Fl", 4000), pool.get("Fl", 4000));
        compare("pool", 1_000_000, () -> pool.get("Fl", 4000), () -> map.get(new Key("Fl", 4000)));
    }
}
