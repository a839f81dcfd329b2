//! Makers that registries load when they are first asked for.

use std::sync::{Mutex, OnceLock, PoisonError};

use crate::Creation;

/// A maker that is loaded when it is first asked for: once, however many threads ask.
/// A loader that fails is called again when the maker is asked for again.
pub struct LoadedMaker<M> {
    load: Box<dyn Fn() -> Creation<M> + Send + Sync>,
    alone: Mutex<()>,
    loaded: OnceLock<M>,
}

impl<M> LoadedMaker<M> {
    pub fn new(load: Box<dyn Fn() -> Creation<M> + Send + Sync>) -> Self {
        Self {
            load,
            alone: Mutex::default(),
            loaded: OnceLock::new(),
        }
    }

    pub fn get(&self) -> Creation<&M> {
        if let Some(maker) = self.loaded.get() {  // «#loaded#»
            return Ok(maker);
        }
        let _alone = self.alone.lock().unwrap_or_else(PoisonError::into_inner);  // «#alone#»
        if let Some(maker) = self.loaded.get() {
            return Ok(maker);
        }
        let maker = (self.load)()?;  // «#load#»
        Ok(self.loaded.get_or_init(|| maker))
    }
}
