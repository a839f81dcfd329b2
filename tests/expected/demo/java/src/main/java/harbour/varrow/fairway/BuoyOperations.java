// Yours: Urform wrote this file once and never touches it again.
package harbour.varrow.fairway;

final class BuoyOperations {
    private BuoyOperations() {}

    /** From how far the mark is seen, in sea miles. */
    static double rangeFrom(Buoy self, double eyeHeight) {
        throw new UnsupportedOperationException("Buoy.range_from is not written yet");
    }
}
