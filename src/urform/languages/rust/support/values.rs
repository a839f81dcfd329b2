//! What the products of this crate have in common.

use std::collections::{BTreeMap, BTreeSet};

use crate::{Bound, CreationError, Found};

/// Stores a negative zero as a plain one, at every level.
pub(crate) trait PlainZero {
    fn plain_zero(self) -> Self;
}

impl PlainZero for f64 {
    fn plain_zero(self) -> Self {
        self + 0.0
    }
}

impl<T: PlainZero> PlainZero for Option<T> {
    fn plain_zero(self) -> Self {
        self.map(T::plain_zero)
    }
}

impl<T: PlainZero> PlainZero for Vec<T> {
    fn plain_zero(self) -> Self {
        self.into_iter().map(T::plain_zero).collect()
    }
}

impl<K: Ord, T: PlainZero> PlainZero for BTreeMap<K, T> {
    fn plain_zero(self) -> Self {
        self.into_iter()
            .map(|(key, each)| (key, each.plain_zero()))
            .collect()
    }
}

/// Nothing but the blanks of ASCII.
pub(crate) fn is_blank(text: &str) -> bool {
    text.chars().all(|char| matches!(char, '\t'..='\r' | ' '))
}

/// The first value that stood before it already.
pub(crate) fn repeated<T: Ord>(values: &[T]) -> Option<&T> {
    let mut before = BTreeSet::new();
    values.iter().find(|each| !before.insert(*each))
}

#[cold]
pub(crate) fn outside(
    owner: &'static str,
    field: &'static str,
    limit: &'static str,
    bound: impl Into<Bound>,
    value: impl Into<Found>,
) -> CreationError {
    CreationError::Limit {
        owner,
        field,
        limit,
        bound: bound.into(),
        value: value.into(),
    }
}

/// The error of a collection whose length is outside a limit.
pub(crate) fn outside_length(
    owner: &'static str,
    field: &'static str,
    limit: &'static str,
    bound: i64,
    length: usize,
) -> CreationError {
    let length = i64::try_from(length).unwrap_or(i64::MAX);
    outside(owner, field, limit, bound, length)
}

/// The error for those fields that were not given.
pub(crate) fn missing(owner: &'static str, given: &[(&'static str, bool)]) -> CreationError {
    let absent = given.iter().filter(|(_, is_given)| !is_given);
    CreationError::Missing {
        owner,
        fields: absent.map(|(name, _)| *name).collect(),
    }
}

pub(crate) fn unknown(owner: &'static str, key: &str, known: &[&str]) -> CreationError {
    CreationError::UnknownKey {
        owner,
        key: key.to_owned(),
        known: known.iter().map(|&each| each.to_owned()).collect(),
    }
}

pub(crate) fn taken(owner: &'static str, key: &str) -> CreationError {
    CreationError::DuplicateKey {
        owner,
        key: key.to_owned(),
    }
}

pub(crate) fn refused(owner: &'static str, reason: &'static str) -> CreationError {
    CreationError::Refused { owner, reason }
}
