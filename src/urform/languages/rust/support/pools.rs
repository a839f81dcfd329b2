//! One product a key, whoever asks.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError, Weak};

use crate::Creation;

/// What a pool holds of a key: nothing until it is made, and when making it failed.
enum Held<T> {
    Nothing,
    Strong(Arc<T>),
    Weak(Weak<T>),
}

impl<T> Held<T> {
    fn get(&self) -> Option<Arc<T>> {
        match self {
            Self::Nothing => None,
            Self::Strong(made) => Some(Arc::clone(made)),
            Self::Weak(made) => made.upgrade(),
        }
    }
}

/// Locked while its product is made, so that others who ask for it wait, and nobody else.
type Slot<T> = Arc<Mutex<Held<T>>>;

pub(crate) struct Pool<K, T> {
    slots: Mutex<HashMap<K, Slot<T>>>,
    hold: fn(&Arc<T>) -> Held<T>,
    made: AtomicU64,
    reused: AtomicU64,
}

impl<K: Eq + Hash, T> Pool<K, T> {
    #[allow(dead_code)] // some declarations have weak pools only
    pub(crate) fn strong() -> Self {
        Self::holding(|made| Held::Strong(Arc::clone(made)))
    }

    #[allow(dead_code)] // some declarations have strong pools only
    pub(crate) fn weak() -> Self {
        Self::holding(|made| Held::Weak(Arc::downgrade(made)))
    }

    fn holding(hold: fn(&Arc<T>) -> Held<T>) -> Self {
        Self {
            slots: Mutex::default(),
            hold,
            made: AtomicU64::new(0),
            reused: AtomicU64::new(0),
        }
    }

    /// The product of a key, made if need be; one that waited for a maker that failed tries itself.
    pub(crate) fn get(&self, key: K, make: impl FnOnce() -> Creation<T>) -> Creation<Arc<T>> {
        let slot = self.slot(key);
        let mut held = lock(&slot);
        if let Some(found) = held.get() {
            self.reused.fetch_add(1, Ordering::Relaxed);
            return Ok(found);
        }
        let made = Arc::new(make()?);
        *held = (self.hold)(&made);
        self.made.fetch_add(1, Ordering::Relaxed);
        Ok(made)
    }

    fn slot(&self, key: K) -> Slot<T> {
        let mut slots = lock(&self.slots);
        if let Some(slot) = slots.get(&key) {
            return Arc::clone(slot);
        }
        if slots.len() == slots.capacity() {
            slots.retain(|_, slot| Arc::strong_count(slot) > 1 || lock(slot).get().is_some());
        }
        let nothing = || Arc::new(Mutex::new(Held::Nothing));
        Arc::clone(slots.entry(key).or_insert_with(nothing))
    }

    pub(crate) fn made(&self) -> u64 {
        self.made.load(Ordering::Relaxed)
    }

    pub(crate) fn reused(&self) -> u64 {
        self.reused.load(Ordering::Relaxed)
    }
}

/// A maker that panics leaves nothing half made, so that a poisoned lock means nothing.
fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
