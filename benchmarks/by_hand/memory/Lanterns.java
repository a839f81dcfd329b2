import harbour.varrow.fairway.Lantern;
import harbour.varrow.fairway.LightRhythm;
import harbour.varrow.fairway.LightRhythmPool;
import harbour.varrow.fairway.Position;
import java.util.List;
import java.util.stream.LongStream;

/** Makes lanterns whose rhythms are shared by a pool, or their own: Lanterns shared|own COUNT. */
final class Lanterns {
    private Lanterns() {}

    public static void main(String[] arguments) {
        List<Long> pulses = LongStream.range(0, 256).mapToObj(number -> number % 100).toList();
        var position = new Position(54.5, 10.25);
        LightRhythmPool.Maker make = (code, periodMs) ->
                new LightRhythm(code, periodMs, new LightRhythm.Options().pulses(pulses));
        LightRhythmPool.Maker get = arguments[0].equals("shared") ? new LightRhythmPool(make)::get : make;
        var lanterns = new Lantern[Integer.parseInt(arguments[1])];
        for (int i = 0; i < lanterns.length; i++) {
            lanterns[i] = new Lantern(get.make("Fl " + i % 50, 4000), position);
        }
        if (lanterns[lanterns.length - 1] == null) {
            throw new IllegalStateException();
        }
    }
}
