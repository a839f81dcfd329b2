package PACKAGE;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertNotSame;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.lang.reflect.Modifier;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BiConsumer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.function.Executable;

/** What a developer does with the generated types. */
final class ClientTest {
    private static final Position HARBOUR = new Position(54.2, 9.1);

    /** A plug-in registers a kind of its own that makes a declared variant, preset. */
    @Test
    void plugsAKindIn() {
        MarkRegistry registry = new MarkRegistry();
        registry.register(
                "port_buoy",
                (station, position, options) ->
                        new Buoy(station, position, new Buoy.Options(options).side(Side.PORT)));
        Mark mark =
                registry.make(
                        "port_buoy", 3L, HARBOUR, new Mark.Options().side(Side.STARBOARD).remarks("lit"));
        assertEquals(Side.PORT, mark.side().orElseThrow());
        assertEquals("lit", mark.remarks().orElseThrow());
        assertEquals(Buoy.KEY, mark.key());
        var unknown =
                assertThrows(
                        CreationException.UnknownKey.class,
                        () -> new MarkRegistry().make("port_buoy", 3L, HARBOUR, new Mark.Options()));
        assertEquals(List.of("beacon", "buoy"), unknown.known());
    }

    /** A plug-in that is found by the name of its class. */
    public static final class PortBuoy implements MarkRegistry.Maker {
        @Override
        public Mark make(long station, Position position, Mark.Options options) {
            return new Buoy(station, position, new Buoy.Options(options).side(Side.PORT));
        }
    }

    /** A plug-in that cannot be made from outside. */
    private static final class Hidden implements MarkRegistry.Maker {
        @Override
        public Mark make(long station, Position position, Mark.Options options) {
            return null;
        }
    }

    @Test
    void findsAKindByTheNameOfItsClass() {
        MarkRegistry registry = new MarkRegistry();
        registry.registerClass("port_buoy", PortBuoy.class.getName());
        registry.registerClass("outer_buoy", Buoy.class.getName());
        Mark.Options options = new Mark.Options();
        assertEquals(
                Side.PORT, registry.make("port_buoy", 3L, HARBOUR, options).side().orElseThrow());
        assertEquals(Buoy.class, registry.make("outer_buoy", 3L, HARBOUR, options).getClass());
        assertThrows(
                CreationException.OutOfLimit.class,
                () -> registry.make("outer_buoy", 0L, HARBOUR, options));
        List<String> wrong =
                List.of("nowhere.Lightship", "java.lang.String", Hidden.class.getName(), Mark.class.getName());
        for (String name : wrong) {
            registry.registerClass(name, name);
            var refused =
                    assertThrows(
                            CreationException.Refused.class,
                            () -> registry.make(name, 3L, HARBOUR, options));
            assertTrue(refused.getMessage().startsWith("Mark: refused, "), refused.getMessage());
        }
        assertThrows(
                CreationException.MissingFields.class, () -> registry.registerClass("none", null));
        assertThrows(
                CreationException.MissingFields.class, () -> registry.registerLoader("none", null));
        assertThrows(
                CreationException.DuplicateKey.class,
                () -> registry.registerClass("buoy", Buoy.class.getName()));
    }

    @Test
    void aLoaderThatFailsIsAskedAgain() {
        MarkRegistry registry = new MarkRegistry();
        AtomicInteger asked = new AtomicInteger();
        registry.registerLoader(
                "port_buoy",
                () -> {
                    if (asked.getAndIncrement() == 0) {
                        throw new IllegalStateException("the plug-in is locked");
                    }
                    return new PortBuoy();
                });
        assertThrows(
                IllegalStateException.class,
                () -> registry.make("port_buoy", 3L, HARBOUR, new Mark.Options()));
        assertEquals(3L, registry.make("port_buoy", 3L, HARBOUR, new Mark.Options()).station());
    }

    /** What was chosen can be read, and taken over by the options of a kind, its own fields too. */
    @Test
    void readsOptions() {
        Mark.Options options = new Mark.Options().remarks("lit");
        assertEquals("lit", options.remarks().orElseThrow());
        assertTrue(options.side().isEmpty() && options.reflective().isEmpty());
        Mark.Options deep = new Buoy.Options().draught(2.5).remarks("deep");
        Buoy buoy = new Buoy(3, HARBOUR, new Buoy.Options(deep).reflective(false));
        assertEquals(2.5, buoy.draught());
        assertEquals("deep", buoy.remarks().orElseThrow());
        assertThrows(CreationException.MissingFields.class, () -> new Buoy.Options(null));
    }

    /** A subclass has no finalizer that could keep what a constructor refused. */
    @Test
    void refusesForGood() throws NoSuchMethodException {
        assertTrue(Modifier.isFinal(Mark.class.getDeclaredMethod("finalize").getModifiers()));
    }

    /** Whoever changes a clone prints both and compares. */
    @Test
    void changesAClone() {
        RefitPlan plan = new RefitPlan("Basin 4", List.of(new Leg("Inspect")));
        String before = plan.toString();
        RefitPlan clone = plan.copy();
        assertNotSame(plan, clone);
        assertEquals(plan, clone);
        clone.legs().get(0).setLabel("Paint");
        clone.setTags(List.of("wood"));
        assertEquals(before, plan.toString());
        assertNotEquals(before, clone.toString());
    }

    /** Whoever changes one leg after the other leaves the clone alone, and a place that is none. */
    @Test
    void changesOneLegAfterTheOther() {
        RefitPlan plan = new RefitPlan("Basin 4", List.of(new Leg("Inspect")));
        plan.addTag("steel");
        RefitPlan clone = plan.copy();
        Leg inspect = plan.legs().get(0);
        plan.addTag("spring");
        clone.addTag("autumn");
        clone.putTag(0, "wood");
        assertEquals(List.of("steel", "spring"), plan.tags());
        assertEquals(List.of("wood", "autumn"), clone.tags());
        plan.addLeg(new Leg("Paint"));
        assertSame(inspect, plan.legs().get(0));
        for (int beyond : new int[] {2, -1}) {
            assertThrows(IndexOutOfBoundsException.class, () -> plan.putTag(beyond, "lost"));
            assertThrows(IndexOutOfBoundsException.class, () -> plan.removeTag(beyond));
        }
        assertEquals(List.of("steel", "spring"), plan.tags());
        plan.removeLeg(0);
        var broken = assertThrows(CreationException.OutOfLimit.class, () -> plan.removeLeg(0));
        assertEquals("min_length", broken.limit());
        assertEquals(List.of(new Leg("Paint")), plan.legs());
    }

    /** One error tells everything that a caller forgot, and the builder can go on. */
    @Test
    void forgets() {
        RefitPlan.Builder builder = new RefitPlan.Builder();
        var missing = assertThrows(CreationException.MissingFields.class, builder::build);
        assertEquals(List.of("title", "legs"), missing.fields());
        RefitPlan first = builder.title("Basin 4").legs(List.of(new Leg("Inspect"))).build();
        RefitPlan second = builder.title("Basin 5").build();
        assertEquals("Basin 4", first.title());
        assertEquals("Basin 5", second.title());
        assertNotSame(first.legs().get(0), second.legs().get(0));
    }

    @Test
    void takesAStandIn() {
        StandInOutfit standIn = new StandInOutfit();
        Outfit outfit = standIn;
        assertNotEquals(SteelHull.KEY, outfit.hull(new Hull.Options()).key());
        outfit.moorings();
        assertEquals(List.of("hull", "moorings"), standIn.asked());
    }

    @Test
    void chainsOfACallerAreNotClosed() {
        var refused = assertThrows(CreationException.class, () -> TideOffset.of(-501L, "chart"));
        assertTrue(refused.getMessage().startsWith("TideOffset: refused"), refused.getMessage());
        assertTrue(TideOffset.find(-501L, "chart").isEmpty());
        assertSame(TideOffset.of(0L, "chart"), TideOffset.of(0L, "chart"));
    }

    /** A hundred ask from many threads: one construction, ninety-nine times reused. */
    @Test
    void poolMakesOnce() throws Exception {
        AtomicInteger made = new AtomicInteger();
        LightRhythmPool pool =
                new LightRhythmPool(
                        (code, period) -> {
                            made.incrementAndGet();
                            Thread.yield();
                            return new LightRhythm(code, period);
                        });
        Set<LightRhythm> found = Collections.newSetFromMap(new ConcurrentHashMap<>());
        List<Callable<Boolean>> asking = Collections.nCopies(100, () -> found.add(pool.get("Fl", 4000L)));
        ExecutorService threads = Executors.newFixedThreadPool(8);
        for (Future<Boolean> asked : threads.invokeAll(asking)) {
            asked.get();
        }
        threads.shutdown();
        assertEquals(1, found.size());
        assertEquals(1, made.get());
        assertEquals(1, pool.made());
        assertEquals(99, pool.reused());
    }

    @Test
    void poolMakerThatFails() {
        AtomicInteger tries = new AtomicInteger();
        LightRhythmPool pool =
                new LightRhythmPool(
                        (code, period) -> {
                            if (tries.incrementAndGet() == 1) {
                                throw new IllegalStateException("no lamp");
                            }
                            return new LightRhythm(code, period);
                        });
        assertThrows(IllegalStateException.class, () -> pool.get("Fl", 4000L));
        assertEquals(0, pool.made());
        assertSame(pool.get("Fl", 4000L), pool.get("Fl", 4000L));
        assertEquals(1, pool.made());
        assertEquals(1, pool.reused());
    }

    /** All of them are in their makers at once, or none goes on. */
    @Test
    void makersOfDifferentKeysDoNotWait() throws Exception {
        CyclicBarrier gate = new CyclicBarrier(8);
        LightRhythmPool pool =
                new LightRhythmPool(
                        (code, period) -> {
                            try {
                                gate.await(10, TimeUnit.SECONDS);
                            } catch (Exception failed) {
                                throw new IllegalStateException(failed);
                            }
                            return new LightRhythm(code, period);
                        });
        ExecutorService threads = Executors.newFixedThreadPool(8);
        List<Callable<LightRhythm>> asking = new ArrayList<>();
        for (long period = 2000; period < 10000; period += 1000) {
            long own = period;
            asking.add(() -> pool.get("Fl", own));
        }
        for (Future<LightRhythm> asked : threads.invokeAll(asking)) {
            asked.get();
        }
        threads.shutdown();
        assertEquals(8, pool.made());
    }

    @Test
    void aMakerThatAsksForItsOwnKeyIsRefused() {
        LightRhythmPool[] pools = new LightRhythmPool[2];
        pools[0] = new LightRhythmPool((code, period) -> pools[1].get(code, period));
        pools[1] = new LightRhythmPool((code, period) -> pools[0].get(code, period));
        var refused =
                assertThrows(CreationException.Refused.class, () -> pools[0].get("Fl", 4000L));
        assertEquals("its maker asks for the key that it makes", refused.reason());
        assertEquals(0, pools[0].made() + pools[1].made());
    }

    @Test
    void nullsAreRefused() {
        assertThrows(CreationException.MissingFields.class, () -> new LightRhythmPool(null));
        LightRhythmPool giving = new LightRhythmPool((code, period) -> null);
        assertThrows(CreationException.Refused.class, () -> giving.get("Fl", 4000L));
        MarkRegistry registry = new MarkRegistry();
        assertThrows(
                CreationException.MissingFields.class, () -> registry.register("raft", null));
        assertThrows(
                CreationException.MissingFields.class,
                () -> registry.register(null, (station, position, options) -> null));
        registry.register("raft", (station, position, options) -> null);
        assertThrows(
                CreationException.Refused.class,
                () -> registry.make("raft", 3L, HARBOUR, new Mark.Options()));
        assertThrows(
                CreationException.UnknownKey.class,
                () -> registry.make(null, 3L, HARBOUR, new Mark.Options()));
    }

    /** Options that are null are missing, and no accident. */
    @Test
    void refusesOptionsThatAreNull() {
        List<Executable> makings =
                List.of(
                        () -> new Leg("Inspect", null),
                        () -> new Buoy(3L, HARBOUR, (Buoy.Options) null),
                        () -> new Buoy(3L, HARBOUR, (Mark.Options) null),
                        () -> new MarkRegistry().make("beacon", 3L, HARBOUR, null),
                        () -> new SteelHull(null));
        for (Executable making : makings) {
            var missing = assertThrows(CreationException.MissingFields.class, making);
            assertEquals(List.of("options"), missing.fields());
        }
    }

    /** Options of a kind, given through the entry of all kinds, are used. */
    @Test
    void optionsOfAKindArriveThroughTheBase() {
        Mark.Options options = new Buoy.Options().draught(2.5).side(Side.PORT);
        Mark mark = new MarkRegistry().make("buoy", 3L, HARBOUR, options);
        assertEquals(2.5, ((Buoy) mark).draught());
        assertEquals(1.5, ((Buoy) new MarkRegistry().make("buoy", 3L, HARBOUR, new Mark.Options())).draught());
    }

    /** What a list says of its size before it is copied counts for nothing. */
    @Test
    void limitsAreThoseOfWhatIsHeld() {
        List<Leg> lying =
                new ArrayList<>() {
                    @Override
                    public int size() {
                        return 1;
                    }

                    @Override
                    public boolean isEmpty() {
                        return false;
                    }
                };
        assertThrows(CreationException.OutOfLimit.class, () -> new RefitPlan("Basin 4", lying));
    }

    /** A map that keeps what it is asked with cannot change the one that was made of it. */
    @Test
    void mapsKeepNoWayIn() {
        List<BiConsumer<? super String, ? super Chart>> kept = new ArrayList<>();
        Map<String, Chart> prying =
                new HashMap<>(Map.of("a", new Chart("1"))) {
                    @Override
                    public void forEach(BiConsumer<? super String, ? super Chart> asked) {
                        kept.add(asked);
                        super.forEach(asked);
                    }
                };
        Map<String, Chart> own =
                Check.map("X", "f", prying, Check.BY_CODE_POINT, each -> each);
        assertTrue(kept.isEmpty());
        assertEquals(1, own.size());
    }

    @Test
    void copiesKeepWhatBuildsRefuse() {
        List<String> copied = Copies.list(Arrays.asList("a", null), String::toUpperCase);
        assertEquals(Arrays.asList("A", null), copied);
        assertNull(Copies.list(null));
        assertNull(Copies.list((List<String>) null, String::toUpperCase));
        assertNull(Copies.set(null));
        assertNull(Copies.map(null));
        Map<String, String> given = new HashMap<>();
        given.put("a", null);
        given.put("b", "x");
        Map<String, String> own = Copies.map(given, String::toUpperCase);
        given.clear();
        assertNull(own.get("a"));
        assertEquals("X", own.get("b"));
        List<String> held = new ArrayList<>(List.of("a"));
        List<String> ofList = Copies.ofList(held, String::toUpperCase);
        held.clear();
        assertEquals(List.of("A"), ofList);
        assertThrows(UnsupportedOperationException.class, ofList::clear);
        assertThrows(
                UnsupportedOperationException.class,
                () -> Copies.ofMap(Map.of("a", "b"), String::toUpperCase).clear());
    }
}
