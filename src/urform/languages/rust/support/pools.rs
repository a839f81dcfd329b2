//! One product a key.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError, Weak};
use std::thread::{self, ThreadId};

use crate::values::refused;
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

#[derive(Default)]
struct Making {
    alone: Mutex<()>,
    maker: Mutex<Option<ThreadId>>, // the thread that makes
}

/// Says, as long as it is there, that this thread makes.
struct Mine<'a>(&'a Making);

impl<'a> Mine<'a> {
    fn new(making: &'a Making) -> Self {
        *lock(&making.maker) = Some(thread::current().id());
        Self(making)
    }
}

impl Drop for Mine<'_> {
    fn drop(&mut self) {
        *lock(&self.0.maker) = None;
    }
}

/// Its mutex is locked while its product is made, so that others who ask for it wait, and nobody else.
struct Slot<T> {
    making: Arc<Making>,
    held: Held<T>,
}

struct Slots<K, T> {
    by_key: HashMap<K, Slot<T>>,
    made: u64,
    reused: u64,
}

pub(crate) struct Pool<K, T> {
    owner: &'static str,
    slots: Mutex<Slots<K, T>>,
    hold: fn(&Arc<T>) -> Held<T>,
}

impl<K: Clone + Eq + Hash, T> Pool<K, T> {
    #[allow(dead_code)] // some declarations have weak pools only
    pub(crate) fn strong(owner: &'static str) -> Self {
        Self::holding(owner, |made| Held::Strong(Arc::clone(made)))
    }

    #[allow(dead_code)] // some declarations have strong pools only
    pub(crate) fn weak(owner: &'static str) -> Self {
        Self::holding(owner, |made| Held::Weak(Arc::downgrade(made)))
    }

    fn holding(owner: &'static str, hold: fn(&Arc<T>) -> Held<T>) -> Self {
        let slots = Slots {
            by_key: HashMap::new(),
            made: 0,
            reused: 0,
        };
        Self {
            owner,
            slots: Mutex::new(slots),
            hold,
        }
    }

    /// The product of a key, made if need be; one that waited for a maker that failed tries itself.
    pub(crate) fn get(&self, key: K, make: impl FnOnce() -> Creation<T>) -> Creation<Arc<T>> {  // «#get#»
        if let Some(found) = self.find(&key) {
            return Ok(found);  // «#hit#»
        }
        let making = self.making(&key);
        if *lock(&making.maker) == Some(thread::current().id()) {
            let reason = "its maker asks for the key that it makes";
            return Err(refused(self.owner, reason));
        }
        let _alone = lock(&making.alone);
        if let Some(found) = self.find(&key) {
            return Ok(found);
        }
        let _mine = Mine::new(&making);
        let made = Arc::new(make()?);  // «#make#»
        self.store(&key, &made);
        Ok(made)
    }

    fn find(&self, key: &K) -> Option<Arc<T>> {
        let mut slots = lock(&self.slots);
        let found = slots.by_key.get(key)?.held.get()?;
        slots.reused += 1;  // «#count_reused#»
        Some(found)
    }

    fn making(&self, key: &K) -> Arc<Making> {
        let by_key = &mut lock(&self.slots).by_key;
        if let Some(slot) = by_key.get(key) {
            return Arc::clone(&slot.making);
        }
        if by_key.len() == by_key.capacity() {
            by_key
                .retain(|_, slot| Arc::strong_count(&slot.making) > 1 || slot.held.get().is_some());
            let kept = by_key.len();
            by_key.reserve(kept); // the next look at all of them is paid for by as many new ones
        }
        let slot = by_key.entry(key.clone()).or_insert_with(|| Slot {
            making: Arc::default(),
            held: Held::Nothing,
        });
        Arc::clone(&slot.making)
    }

    fn store(&self, key: &K, made: &Arc<T>) {
        let mut slots = lock(&self.slots);
        if let Some(slot) = slots.by_key.get_mut(key) {
            slot.held = (self.hold)(made);  // «#keep#»
        }
        slots.made += 1;  // «#count_made#»
    }

    pub(crate) fn made(&self) -> u64 {
        lock(&self.slots).made
    }

    pub(crate) fn reused(&self) -> u64 {
        lock(&self.slots).reused
    }
}

/// A maker that panics leaves nothing half made, so that a poisoned lock means nothing.
fn lock<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
