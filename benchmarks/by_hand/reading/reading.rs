//! Reads the file both ways: by the generated crate, and by serde straight into structs, with checks by hand.

use std::hint::black_box;
use std::time::Instant;

use logbook::json::parse;
use logbook::records::{create_all, read_mark};
use serde::Deserialize;

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Position {
    #[serde(rename = "lat")]
    latitude: f64,
    #[serde(rename = "lon (°)")]
    longitude: f64,
}

#[derive(Deserialize)]
enum Side {
    #[serde(rename = "P")]
    Port,
    #[serde(rename = "S (to starboard)")]
    Starboard,
    #[serde(rename = "middle")]
    Middle,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Buoy {
    station: i64,
    position: Position,
    side: Option<Side>,
    #[serde(rename = "toString")]
    remarks: Option<String>,
    reflective: Option<bool>,
    password: Option<String>,
    draught: Option<f64>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Beacon {
    station: i64,
    position: Position,
    side: Option<Side>,
    #[serde(rename = "toString")]
    remarks: Option<String>,
    reflective: Option<bool>,
    password: Option<String>,
}

#[derive(Deserialize)]
#[serde(tag = "type")]
enum Mark {
    #[serde(rename = "B-1", alias = "buoy")]
    Buoy(Buoy),
    #[serde(rename = "BCN")]
    Beacon(Beacon),
}

fn check(station: i64, position: &Position, remarks: Option<&String>, password: Option<&String>) {
    assert!((1..=9999).contains(&station));
    assert!((-90.0..=90.0).contains(&position.latitude));
    assert!((-180.0..=180.0).contains(&position.longitude));
    assert!(remarks.is_none_or(|text| text.chars().count() <= 20));
    assert!(password.is_none_or(|text| text.chars().count() >= 3));
}

fn by_hand(text: &[u8]) -> usize {
    let marks: Vec<Mark> = serde_json::from_slice(text).unwrap();
    for mark in &marks {
        match mark {
            Mark::Buoy(it) => {
                check(it.station, &it.position, it.remarks.as_ref(), it.password.as_ref());
                assert!(it.draught.is_none_or(|draught| draught > 0.0));
                black_box((&it.side, it.reflective.unwrap_or(true)));
            }
            Mark::Beacon(it) => {
                check(it.station, &it.position, it.remarks.as_ref(), it.password.as_ref());
                black_box((&it.side, it.reflective.unwrap_or(false)));
            }
        }
    }
    black_box(marks).len()
}

fn generated(text: &[u8]) -> usize {
    let (marks, problems) = create_all(&parse(text).unwrap(), read_mark);
    assert!(problems.is_empty());
    black_box(marks).len()
}

fn milliseconds(job: fn(&[u8]) -> usize, text: &[u8], count: usize) -> f64 {
    let start = Instant::now();
    assert_eq!(job(text), count);
    start.elapsed().as_secs_f64() * 1000.0
}

fn median(mut all: Vec<f64>) -> f64 {
    all.sort_by(f64::total_cmp);
    all[all.len() / 2]
}

fn main() {
    let given: Vec<String> = std::env::args().collect();
    let text = std::fs::read(&given[1]).unwrap();
    let count = given[2].parse().unwrap();
    let pairs: Vec<(f64, f64)> = (0..110)
        .map(|_| (milliseconds(generated, &text, count), milliseconds(by_hand, &text, count)))
        .skip(10)
        .collect();
    println!(
        "{} {} {}",
        median(pairs.iter().map(|pair| pair.0).collect()),
        median(pairs.iter().map(|pair| pair.1).collect()),
        median(pairs.iter().map(|pair| pair.0 / pair.1).collect())
    );
}
