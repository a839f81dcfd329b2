//! What the tests have in common.

#![allow(dead_code)] // which of it is needed depends on the declaration

use std::collections::BTreeMap;
use std::fmt::Debug;
use std::sync::mpsc::channel;
use std::sync::{Arc, Barrier};
use std::thread;
use std::time::{Duration, Instant};

use CRATE::{Bound, Creation, CreationError};

/// Fails unless a value is the one that is wanted.
#[track_caller]
pub fn is<T: PartialEq + Debug + ?Sized>(what: &str, got: &T, wanted: &T) {
    assert!(got == wanted, "{what}: got {got:?}, want {wanted:?}");
}

/// Fails unless two are equal.
#[track_caller]
pub fn equals<T: PartialEq + Debug + ?Sized>(left: &T, right: &T) {
    assert!(left == right, "equality: got {left:?}, want {right:?}");
}

/// Fails if two are equal in spite of what differs.
#[track_caller]
pub fn differs<T: PartialEq + Debug + ?Sized>(left: &T, right: &T, differing: &str) {
    assert!(
        left != right,
        "equality in spite of {differing}: got true, want false"
    );
}

/// What there is to compare of an error: all of it, and of a limit what it says of the value.
pub struct Reason(String);

impl From<CreationError> for Reason {
    fn from(error: CreationError) -> Self {
        match &error {
            CreationError::Limit {
                owner,
                field,
                limit,
                bound,
                ..
            } => outside(owner, field, limit, *bound, &error.to_string()),
            _ => Self(format!("{error:?}")),
        }
    }
}

/// Fails unless this error comes of it, and no other.
#[track_caller]
pub fn refuses<T>(result: Creation<T>, wanted: impl Into<Reason>) {
    let Reason(wanted) = wanted.into();
    let Err(error) = result else {
        panic!("error: got none, want {wanted}");
    };
    let Reason(got) = error.into();
    assert!(got == wanted, "error: got {got}, want {wanted}");
}

/// Fails unless nothing comes of it.
#[track_caller]
pub fn nothing<T>(found: Option<T>) {
    assert!(found.is_none(), "found: got something, want nothing");
}

pub fn missing(owner: &'static str, fields: &[&'static str]) -> CreationError {
    let fields = fields.to_vec();
    CreationError::Missing { owner, fields }
}

pub fn outside(owner: &str, field: &str, limit: &str, bound: Bound, said: &str) -> Reason {
    Reason(format!("{owner}.{field}, {limit} {bound:?}: {said}"))
}

pub fn unknown(owner: &'static str, key: &str, known: &[&str]) -> CreationError {
    CreationError::UnknownKey {
        owner,
        key: key.to_owned(),
        known: known.iter().map(|&each| each.to_owned()).collect(),
    }
}

pub fn taken(owner: &'static str, key: &str) -> CreationError {
    CreationError::DuplicateKey {
        owner,
        key: key.to_owned(),
    }
}

pub fn refused(owner: &'static str, reason: &'static str) -> CreationError {
    CreationError::Refused { owner, reason }
}

/// The type of a product, by what it prints.
pub fn kind_of<T: Debug + ?Sized>(made: &T) -> String {
    let shown = format!("{made:?}");
    let end = shown.find(|char: char| !char.is_alphanumeric() && char != '_');
    shown[..end.unwrap_or(shown.len())].to_owned()
}

/// The first entry of a map.
pub fn first_of<K, T>(map: &BTreeMap<K, T>) -> &T {
    map.values().next().expect("the map is not empty")
}

/// Waits until something holds, or for so long at most.
pub fn until(at_most: Duration, holds: impl Fn() -> bool) {
    let begin = Instant::now();
    while !holds() && begin.elapsed() < at_most {
        thread::sleep(Duration::from_millis(1));
    }
}

/// What so many threads get that ask at once.
pub fn together<T: Send + 'static>(
    threads: usize,
    ask: impl Fn() -> T + Send + Sync + 'static,
) -> Vec<T> {
    let ask = Arc::new(ask);
    let barrier = Arc::new(Barrier::new(threads));
    let started: Vec<_> = (0..threads)
        .map(|_| {
            let (ask, barrier) = (Arc::clone(&ask), Arc::clone(&barrier));
            thread::spawn(move || {
                barrier.wait();
                ask()
            })
        })
        .collect();
    let ended = started.into_iter().map(|each| each.join());
    ended.map(|each| each.expect("no thread panics")).collect()
}

/// What something gives, which must not take longer than that.
#[track_caller]
pub fn within<T: Send + 'static>(at_most: Duration, ask: impl FnOnce() -> T + Send + 'static) -> T {
    let (sender, receiver) = channel();
    thread::spawn(move || {
        let _ = sender.send(ask());
    });
    let answer = receiver.recv_timeout(at_most);
    assert!(answer.is_ok(), "answer: got none in time, want one");
    answer.expect("it is there")
}

/// What the maker of a pool panics with, if it does.
pub fn panics(ask: impl FnOnce()) -> Option<String> {
    let caught = std::panic::catch_unwind(std::panic::AssertUnwindSafe(ask));
    let reason = caught.err()?;
    reason.downcast_ref::<&str>().map(|&text| text.to_owned())
}
