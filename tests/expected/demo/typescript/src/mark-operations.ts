// Yours: Urform wrote this file once and never touches it again.

import type { Buoy } from "./mark.js";

/** From how far the mark is seen, in sea miles. */
export function buoyRangeFrom(buoy: Buoy, eyeHeight: number): number {
  throw new Error("Buoy.range_from is not written yet");
}
