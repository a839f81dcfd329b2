// Yours: Urform wrote this file once and never touches it again.

package fairway

// RangeFrom: From how far the mark is seen, in sea miles.
func (b *Buoy) RangeFrom(eyeHeight float64) float64 {
	panic("Buoy.range_from is not written yet")
}
