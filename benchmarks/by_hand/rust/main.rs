//! Measures the generated Rust beside what a careful author writes by hand for the same jobs.
//! Prints one line a job: name, ratio, nanoseconds. `generated.py` compiles it with the generated crate.

use std::collections::HashMap;
use std::hint::black_box;
use std::sync::{Arc, Mutex};
use std::time::Instant;

const ROUNDS: usize = 21;

fn timed<T>(n: u32, job: &mut impl FnMut() -> T) -> f64 {
    let started = Instant::now();
    for _ in 0..n {
        black_box(job());
    }
    started.elapsed().as_nanos() as f64 / f64::from(n)
}

/// Prints the median ratio of one to the other, measured in turn, and the nanoseconds of one.
fn compare<A, B>(name: &str, n: u32, mut one: impl FnMut() -> A, mut other: impl FnMut() -> B) {
    timed(n, &mut one);
    timed(n, &mut other);
    let mut ratios = Vec::new();
    let mut times = Vec::new();
    for _ in 0..ROUNDS {
        let time = timed(n, &mut one);
        times.push(time);
        ratios.push(time / timed(n, &mut other));
    }
    ratios.sort_by(f64::total_cmp);
    times.sort_by(f64::total_cmp);
    println!("{name} {:.3} {:.0}", ratios[ROUNDS / 2], times[ROUNDS / 2]);
}

fn main() {
    let ours = fairway::Position::new(54.5, 10.25).unwrap();
    let theirs = by_hand::Position::new(54.5, 10.25).unwrap();
    let (registry, own) = (fairway::MarkRegistry::new(), by_hand::MarkRegistry::new());
    compare(
        "factory",
        200_000,
        || {
            let options = fairway::MarkOptions { remarks: Some("none".to_owned()), ..Default::default() };
            registry.make("buoy", 17, ours.clone(), options).unwrap().station()
        },
        || {
            let options = by_hand::MarkOptions { remarks: Some("none".to_owned()), ..Default::default() };
            by_hand::Mark::station(own.make("buoy", 17, theirs.clone(), options).unwrap().as_ref())
        },
    );

    let inspect = fairway::Leg::new("Inspect", fairway::LegOptions::default()).unwrap();
    let own = by_hand::Leg::new("Inspect", 0.0).unwrap();
    let labels = ["lantern", "mooring", "paint", "topmark"];
    let next = |at: &mut usize| {
        *at += 1;
        *at
    };
    let (mut at, mut own_at) = (0, 0);
    compare(
        "position",
        500_000,
        || fairway::Position::new((next(&mut at) % 90) as f64, 10.25).unwrap(),
        || by_hand::Position::new((next(&mut own_at) % 90) as f64, 10.25).unwrap(),
    );
    compare(
        "leg",
        500_000,
        || fairway::Leg::new(labels[next(&mut at) & 3], fairway::LegOptions { hours: 1.0 }).unwrap(),
        || by_hand::Leg::new(labels[next(&mut own_at) & 3], 1.0).unwrap(),
    );
    let (mut changed, mut own_changed) = (inspect.clone(), own.clone());
    compare(
        "setter",
        500_000,
        || changed.set_label(labels[next(&mut at) & 3]).unwrap(),
        || own_changed.set_label(labels[next(&mut own_at) & 3]).unwrap(),
    );
    let tags = || vec!["ice".to_owned(), "north".to_owned()];
    compare(
        "builder",
        100_000,
        || {
            let mut builder = fairway::RefitPlanBuilder::new();
            builder.title("Winter").crew(3).tags(tags());
            builder.add_leg(inspect.clone()).add_leg(inspect.clone()).add_leg(inspect.clone());
            builder.build().unwrap()
        },
        || {
            let mut builder = by_hand::RefitPlanBuilder::default();
            builder.title("Winter").crew(3).tags(tags());
            builder.add_leg(own.clone()).add_leg(own.clone()).add_leg(own.clone());
            builder.build().unwrap()
        },
    );

    let legs = vec![inspect; 50];
    let plan = fairway::RefitPlan::new("Winter", legs, fairway::RefitPlanOptions::default()).unwrap();
    let own = by_hand::RefitPlan::new("Winter".to_owned(), vec![own; 50], 2, Vec::new()).unwrap();
    assert!(own.weight() > 0);
    compare("clone", 20_000, || plan.duplicate(), || own.fresh_clone());

    let pool = fairway::LightRhythmPool::new();
    let rhythm = pool.get("Fl", 4000).unwrap();
    let held = Mutex::new(HashMap::from([(("Fl".to_owned(), 4000_i64), Arc::clone(&rhythm))]));
    compare(
        "pool",
        500_000,
        || pool.get("Fl", 4000).unwrap(),
        || Arc::clone(&held.lock().unwrap()[&("Fl".to_owned(), 4000)]),
    );
}
