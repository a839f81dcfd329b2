//! Programs as a developer would write them, from what the documentation of the crate tells.

use std::panic::{catch_unwind, AssertUnwindSafe};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Barrier};
use std::thread;

use PACKAGE::testing::StandInOutfit;
use PACKAGE::*;

/// A kind that nobody declared: it has what all marks have, and something of its own.
#[derive(Debug, Clone, PartialEq)]
struct Lightship {
    fields: MarkFields,
    crew: u32,
}

impl Mark for Lightship {
    fn key(&self) -> &'static str {
        "lightship"
    }

    fn fields(&self) -> &MarkFields {
        &self.fields
    }

    fn chart_label(&self) -> String {
        format!("lightship with {} aboard", self.crew)
    }

    fn range_from(&self, eye_height: f64) -> f64 {
        eye_height + 12.0
    }
}

fn basin() -> Position {
    Position::new(54.2, 9.1).expect("it is on the chart")
}

fn inspect() -> Leg {
    Leg::new("Inspect", LegOptions::default()).expect("it has a label")
}

#[test]
fn a_plug_in_adds_a_kind_that_keeps_the_limits_of_all() {
    let mut registry = MarkRegistry::new();
    let maker: MarkMaker = Box::new(|station, position, options| {
        let fields = MarkFields::new(station, position, options)?;
        Ok(Box::new(Lightship { fields, crew: 7 }))
    });
    registry.register("lightship", maker).expect("the key is free");
    assert_eq!(registry.keys(), ["beacon", "buoy", "lightship"]);

    let options = MarkOptions {
        side: Some(Side::Port),
        ..MarkOptions::default()
    };
    let ship = registry.make("lightship", 3, basin(), options.clone()).expect("it can be made");
    assert_eq!((ship.key(), ship.station(), ship.side()), ("lightship", 3, Some(Side::Port)));
    assert_eq!(ship.chart_label(), "lightship with 7 aboard");
    assert!(ship.as_any().is::<Lightship>());
    let twin = ship.clone();
    assert!(*twin == *ship);

    let outside = registry.make("lightship", 0, basin(), options);
    assert!(matches!(outside, Err(CreationError::Limit { field: "station", limit: "min", .. })));
    let elsewhere = MarkRegistry::new().make("lightship", 3, basin(), MarkOptions::default());
    let Err(CreationError::UnknownKey { key, known, .. }) = elsewhere else {
        panic!("another registry knows it");
    };
    assert_eq!((key.as_str(), known), ("lightship", vec!["beacon".to_owned(), "buoy".to_owned()]));
}

#[test]
fn a_loader_that_fails_or_panics_is_asked_again() {
    let asked = AtomicU64::new(0);
    let mut registry = MarkRegistry::new();
    registry
        .register_loader(
            "port_buoy",
            Box::new(move || match asked.fetch_add(1, Ordering::SeqCst) {
                0 => Err(CreationError::maker("the plug-in is locked")),
                1 => panic!("the plug-in is broken"),
                _ => {
                    let maker: MarkMaker = Box::new(|station, position, options| {
                        Ok(Box::new(Buoy::new(station, position, options.into())?))
                    });
                    Ok(maker)
                }
            }),
        )
        .unwrap();
    let ask = || registry.make("port_buoy", 3, basin(), MarkOptions::default());
    assert!(ask().unwrap_err().to_string().contains("locked"));
    assert!(catch_unwind(AssertUnwindSafe(|| drop(ask()))).is_err());
    assert_eq!(ask().unwrap().key(), "buoy");
    assert_eq!(ask().unwrap().station(), 3);
}

#[test]
fn who_changes_a_clone_prints_both_and_compares() {
    let mut builder = RefitPlanBuilder::from_spring_refit();
    builder.title("Basin 4").add_leg(inspect()).add_tag("steel");
    let plan = builder.serial(7).build().expect("nothing is missing");
    let before = format!("{plan:?}");

    let mut clone = plan.duplicate();
    assert_eq!(clone.serial(), None);
    let first = clone.legs_mut().next().expect("there is one leg");
    first.set_label("Paint").expect("it is no blank");
    clone.set_tags(vec!["wood".to_owned()]);
    assert_eq!(format!("{plan:?}"), before);
    assert_eq!((plan.legs()[0].label(), clone.legs()[0].label()), ("Inspect", "Paint"));
    assert_eq!(plan.tags(), ["spring", "steel"]);
}

#[test]
fn who_changes_one_leg_after_the_other_leaves_the_clone_alone() {
    let mut plan = RefitPlan::new("Basin 4", vec![inspect()], RefitPlanOptions::default()).expect("no limit is broken");
    plan.add_tag("steel");
    let mut clone = plan.duplicate();
    plan.add_tag("spring");
    clone.add_tag("autumn");
    clone.put_tag(0, "wood");
    assert_eq!(plan.tags(), ["steel", "spring"]);
    assert_eq!(clone.tags(), ["wood", "autumn"]);
    let unchanged = plan.clone();
    for change in [|plan: &mut RefitPlan| plan.put_tag(2, "lost"), |plan: &mut RefitPlan| plan.remove_tag(2)] {
        let mut tried = plan.clone();
        std::panic::catch_unwind(std::panic::AssertUnwindSafe(|| change(&mut tried))).expect_err("no such place");
        assert_eq!(tried, unchanged);
    }
    let mut paint = inspect();
    paint.set_label("Paint").expect("it is no blank");
    plan.add_leg(paint.clone());
    plan.remove_leg(0).expect("one is left");
    assert!(matches!(plan.remove_leg(0), Err(CreationError::Limit { limit: "min_length", .. })));
    assert_eq!(plan.legs(), [paint]);
}

#[test]
fn one_error_tells_all_that_was_forgotten_and_the_builder_goes_on() {
    let mut builder = RefitPlanBuilder::new();
    let Err(CreationError::Missing { owner, fields }) = builder.build() else {
        panic!("nothing is missing");
    };
    assert_eq!((owner, fields), ("RefitPlan", vec!["title", "legs"]));
    let first = builder.title("Basin 4").add_leg(inspect()).build().expect("all is there");
    let second = builder.title("Basin 5").build().expect("all is there");
    assert_eq!((first.title(), second.title()), ("Basin 4", "Basin 5"));
}

/// What a harbour office does with whatever outfit it is handed.
fn fit_out(outfit: &dyn Outfit) -> Creation<(f64, usize)> {
    let hull = outfit.hull(HullOptions { length: Some(4.5) })?;
    Ok((hull.length(), outfit.moorings().len()))
}

#[test]
fn a_client_takes_a_stand_in_for_a_family() {
    let stand_in = StandInOutfit::default();
    assert_eq!(fit_out(&stand_in).expect("it is long enough"), (4.5, 1));
    assert_eq!(stand_in.asked(), ["hull", "moorings"]);
    assert_eq!(fit_out(outfit_for("ice")).expect("it is long enough"), (4.5, 1));
    assert_eq!(fit_out(outfit_for("nowhere")).expect("it is long enough"), (4.5, 2));
}

#[test]
fn values_that_give_no_product_give_a_reason_or_nothing() {
    let refused = make_tide_offset(-501, "LAT");
    assert_eq!(refused.map_err(|error| error.to_string()), Err("TideOffset: refused, centimetres < -500".to_owned()));
    assert!(make_tide_offset(40, " ").ok().is_none());
    let TideOffset::KnownOffset(known) = make_tide_offset(40, "LAT").expect("it is measured") else {
        panic!("it is not known");
    };
    assert_eq!((known.centimetres(), known.datum()), (40, "LAT"));
}

#[test]
fn a_hundred_lanterns_share_one_rhythm_that_was_made_once() {
    static MAKINGS: AtomicU64 = AtomicU64::new(0);
    let pool = Arc::new(LightRhythmPool::with_maker(|code, period_ms| {
        MAKINGS.fetch_add(1, Ordering::SeqCst);
        thread::yield_now();
        LightRhythm::new(code, period_ms, LightRhythmOptions::default())
    }));
    let barrier = Arc::new(Barrier::new(10));
    let keepers: Vec<_> = (0..10)
        .map(|_| {
            let (pool, barrier) = (Arc::clone(&pool), Arc::clone(&barrier));
            thread::spawn(move || {
                barrier.wait();
                let lit = |_| Lantern::new(pool.get("Fl", 4000).expect("it is made"), basin());
                (0..10).map(lit).collect::<Vec<_>>()
            })
        })
        .collect();
    let lanterns: Vec<_> = keepers.into_iter().flat_map(|keeper| keeper.join().expect("none panics")).collect();
    assert!(lanterns.iter().all(|lantern| Arc::ptr_eq(lantern.rhythm(), lanterns[0].rhythm())));
    assert_eq!((MAKINGS.load(Ordering::SeqCst), pool.made(), pool.reused()), (1, 1, 99));
}

#[test]
fn a_weak_pool_lets_go_of_what_nobody_holds() {
    let pool = TopmarkPool::new();
    let first = pool.get("cone").expect("it is made");
    let again = pool.get("cone").expect("it is there");
    assert!(Arc::ptr_eq(&first, &again));
    let gone = Arc::downgrade(&first);
    drop((first, again));
    assert!(gone.upgrade().is_none());
    pool.get("cone").expect("it is made anew");
    assert_eq!((pool.made(), pool.reused()), (2, 1));
}

#[test]
fn a_maker_that_asks_for_its_own_key_is_refused() {
    static POOL: std::sync::OnceLock<LightRhythmPool> = std::sync::OnceLock::new();
    let pool = POOL.get_or_init(|| {
        LightRhythmPool::with_maker(|code, period_ms| {
            let own = POOL.get().expect("it is set").get(code, period_ms)?;
            Ok((*own).clone())
        })
    });
    let told = pool.get("Fl", 4000).expect_err("it would wait for itself");
    assert_eq!(told.to_string(), "LightRhythm: refused, its maker asks for the key that it makes");
    assert_eq!((pool.made(), pool.reused()), (0, 0));
}

#[test]
fn boxes_are_compared_and_not_moved() {
    let made = |key: &str| MarkRegistry::new().make(key, 3, basin(), MarkOptions::default()).expect("it is made");
    let (one, same, other) = (made("buoy"), made("buoy"), made("beacon"));
    assert!(one == same);
    assert!(one != other);
    assert_eq!(one.key(), "buoy"); // none of them has moved
}

#[test]
fn reads_words_from_what_a_file_holds() {
    let sides: Result<Vec<Side>, CreationError> = ["port", "starboard"].iter().map(|side| side.parse()).collect();
    assert_eq!(sides, Ok(Side::ALL.to_vec()));
    assert!("larboard".parse::<Side>().is_err());
}
