//! The support code by itself, compiled as a part of this program.

#![allow(dead_code)]

#[path = "../src/errors.rs"]
mod errors;
#[path = "../src/values.rs"]
mod values;

use std::collections::BTreeMap;
use std::error::Error;

pub use errors::*;
use values::{is_blank, missing, outside, outside_length, refused, taken, unknown, PlainZero};

#[test]
fn missing_names_all_that_are_not_there() {
    let error = missing("Buoy", &[("a", false), ("b", true), ("c", false)]);
    assert_eq!(error.to_string(), "Buoy: missing a, c");
}

#[test]
fn messages_tell_owner_field_and_bound() {
    let one_of: &'static [&str] = &["red", "a \"b\""];
    let grades: &'static [i64] = &[1, 3];
    for (error, said) in [
        (outside("Mark", "station", "min", 1, 0), "Mark.station is 0; at least 1 is allowed"),
        (outside("Leg", "hours", "below", 2.0, 1e21), "Leg.hours is 1e+21; less than 2.0 is wanted"),
        (
            outside("Leg", "label", "not_blank", Bound::None, Found::None),
            "Leg.label: a text that is not blank is wanted",
        ),
        (
            outside("Crate", "code", "one_of", one_of, "a\u{1}\n"),
            r#"Crate.code is "a\u0001\n"; one of "red", "a \"b\"" is wanted"#,
        ),
        (outside("Crate", "grade", "one_of", grades, 2), "Crate.grade is 2; one of 1, 3 is wanted"),
        (
            outside_length("Crate", "marks", "each.max_length", 2, 3),
            "an element of Crate.marks has the length 3; at most 2 is allowed",
        ),
        (unknown("Mark", "a\"b", &["x", "y"]), r#"Mark: unknown key "a\"b", known: x, y"#),
        (taken("Mark", "x"), r#"Mark: key "x" is taken"#),
        (refused("TideOffset", "too low"), "TideOffset: refused, too low"),
    ] {
        assert_eq!(error.to_string(), said);
    }
}

#[test]
fn a_makers_failure_is_passed_through_whole() {
    let lamp = std::io::Error::other("no lamp");
    let error = CreationError::maker(lamp);
    assert_eq!(error.to_string(), "no lamp");
    let source = error.source().and_then(|source| source.downcast_ref::<std::io::Error>());
    assert_eq!(source.map(std::io::Error::kind), Some(std::io::ErrorKind::Other));
}

#[test]
fn errors_are_equal_by_what_they_tell() {
    assert_eq!(taken("Mark", "x"), taken("Mark", "x"));
    assert_ne!(taken("Mark", "x"), taken("Mark", "y"));
    assert_ne!(taken("Mark", "x"), unknown("Mark", "x", &[]));
    assert_eq!(outside("Leg", "hours", "min", 0.0, 1), outside("Leg", "hours", "min", 0.0, 1));
    assert_ne!(outside("Leg", "hours", "min", 0.0, 1), outside("Leg", "hours", "min", 0.0, 2));
    let failure = CreationError::maker(std::io::Error::other("no lamp"));
    assert_eq!(failure.clone(), failure);
    assert_ne!(failure, CreationError::maker(std::io::Error::other("no lamp")));
}

#[test]
fn blanks_are_those_of_ascii() {
    for blank in ["", " \t\n\u{b}\u{c}\r"] {
        assert!(is_blank(blank), "{blank:?}");
    }
    for shown in ["\u{a0}", "\u{85}", "\u{2028}", "\u{1c}", " a"] {
        assert!(!is_blank(shown), "{shown:?}");
    }
}

#[test]
fn negative_zero_is_stored_as_a_plain_one_at_every_level() {
    assert!((-0.0_f64).is_sign_negative());
    assert!((-0.0_f64).plain_zero().is_sign_positive());
    assert!(Some(-0.0_f64).plain_zero().is_some_and(f64::is_sign_positive));
    let rows = vec![vec![-0.0, -1.5]].plain_zero();
    assert!(rows[0][0].is_sign_positive() && rows[0][1] == -1.5);
    let depths = BTreeMap::from([("a", -0.0)]).plain_zero();
    assert!(depths["a"].is_sign_positive());
}
