//! Kinds with fields of their own, asked for by key.

use PACKAGE::records::{read_tide_with, RecordError, Value};
use PACKAGE::*;

fn named(entries: &[(&str, Value)]) -> Value {
    Value::Object(entries.iter().map(|(name, value)| ((*name).to_owned(), value.clone())).collect())
}

fn pier() -> Value {
    named(&[
        ("name", "pier".into()),
        ("periodMs", Value::Integer(4)),
        ("sectors", Value::List(vec![named(&[("from_degrees", Value::Real(10.0))])])),
    ])
}

fn problems(error: &CreationError) -> usize {
    let CreationError::Maker(failure) = error else {
        panic!("{error} is none of a record");
    };
    failure.downcast_ref::<RecordError>().expect("it is of a record").problems.len()
}

#[test]
fn a_key_takes_a_record_of_the_fields_of_its_kind() {
    let Ok(Mark::Light(light)) = make_mark("T1", &pier()) else {
        panic!("a light is made");
    };
    assert_eq!((light.period(), light.sectors()[0].from_degrees()), (4, 10.0));
}

#[test]
fn everything_that_is_wrong_is_told() {
    let wrong = named(&[("name", "far too long".into()), ("draught", Value::Integer(1))]);
    assert_eq!(problems(&make_mark("light", &wrong).unwrap_err()), 4);
    assert!(matches!(make_mark("lihgt", &pier()), Err(CreationError::UnknownKey { .. })));
}

#[test]
fn a_registry_takes_kinds_with_fields_of_their_own() {
    let mut registry = TideRegistry::new();
    let spring: TideMaker = Box::new(|record| {
        let Value::Object(entries) = record else {
            return Err(CreationError::maker("no record"));
        };
        let rise = entries.iter().find_map(|(name, value)| match value {
            Value::Real(rise) if name == "rise" => Some(*rise),
            _ => None,
        });
        Ok(Box::new(High::new("Quay", rise.unwrap_or(0.0))?))
    });
    registry.register("spring", spring).unwrap();
    let record = named(&[("type", "spring".into()), ("rise", Value::Real(5.5))]);
    let made = read_tide_with(&registry, &record).unwrap();
    assert_eq!(made.as_any().downcast_ref::<High>().map(High::metres), Some(5.5));
    let high = named(&[("metres", Value::Integer(-1))]);
    assert_eq!(problems(&registry.make("high", &high).unwrap_err()), 2);
}
