//! What the watch writes down.

use varrow_marks::{Creation, MarkOptions, MarkRegistry, Round, RoundBuilder};

/// Begins a round that has seen one mark.
pub fn begin(watch: &str, kind: &str, station: i64) -> Creation<Round> {
    let mark = MarkRegistry::new().make(kind, station, MarkOptions::default())?;
    RoundBuilder::new()
        .watch(watch)
        .add_sighting(&format!("{} {}", mark.key(), mark.station()))
        .build()
}

#[test]
fn a_round_begins_with_what_was_seen() {
    assert_eq!(begin("first", "buoy", 7).unwrap().seen(), ["buoy 7"]);
}
