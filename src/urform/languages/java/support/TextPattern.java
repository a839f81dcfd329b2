package PACKAGE;

import java.util.Arrays;
import java.util.BitSet;
import java.util.function.Predicate;
import java.util.stream.IntStream;

/**
 * What texts look like, as tables: the moves of a state lead to others by the kind of the next
 * character, and kinds has the kind of the characters from each of starts on. State 0 refuses
 * everything, state 1 is the first. Tables are texts, for a method cannot fill large arrays.
 */
final class TextPattern implements Predicate<String> {
    private static final int ASCII = 0x80;

    private final int[] starts;
    private final int[] kinds;
    private final int[] ofAscii;
    private final int[][] moves;
    private final BitSet ends = new BitSet();

    TextPattern(String starts, String kinds, String moves, String ends) {
        this.starts = numbers(starts);
        this.kinds = numbers(kinds);
        this.ofAscii = IntStream.range(0, ASCII).map(this::kind).toArray();
        this.moves = moves.lines().map(TextPattern::numbers).toArray(int[][]::new);
        for (int state : numbers(ends)) {
            this.ends.set(state);
        }
    }

    private static int[] numbers(String list) {
        return Arrays.stream(list.strip().split(",\\s*")).mapToInt(Integer::decode).toArray();
    }

    /** Whether the whole text has the form. */
    @Override
    public boolean test(String text) {
        int state = 1;
        for (int at = 0; at < text.length(); ) {
            int point = text.codePointAt(at);
            at += Character.charCount(point);
            state = moves[state][point < ASCII ? ofAscii[point] : kind(point)];
        }
        return ends.get(state);
    }

    private int kind(int point) {
        int at = Arrays.binarySearch(starts, point);
        return kinds[at >= 0 ? at : -at - 2];
    }
}
