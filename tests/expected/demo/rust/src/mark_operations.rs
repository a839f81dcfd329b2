//! Operations of [`crate::Mark`], yours to write; Urform made this file once,
//! from fairway.urform.yaml.

/// From how far the mark is seen, in sea miles.
pub(crate) fn buoy_range_from(_buoy: &crate::Buoy, _eye_height: f64) -> f64 {
    todo!("Buoy.range_from is yours to write")
}
