//! Stopping what nobody waits for any more, and telling how far it is.

use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// A computation was asked to stop.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
#[error("the computation was stopped")]
pub struct Stopped;

#[derive(Debug, Default)]
struct Shared {
    stop: AtomicBool,
    /// Steps done and steps in all of what takes longest.
    done: AtomicU32,
    of: AtomicU32,
    /// What its draws start from.
    seed: OnceLock<u64>,
    /// What was found so far, in words.
    so_far: Mutex<Option<String>>,
}

/// Tells a running computation that nobody waits for it any more, and others how far it is.
#[derive(Clone, Debug, Default)]
pub struct Cancel(Arc<Shared>);

impl Cancel {
    /// Asks the computation to stop at its next check.
    pub fn stop(&self) {
        self.0.stop.store(true, Ordering::Relaxed);
    }

    /// Fails when a stop was asked for; called between passes over the data.
    ///
    /// # Errors
    /// [`Stopped`].
    pub fn check(&self) -> Result<(), Stopped> {
        if self.0.stop.load(Ordering::Relaxed) { Err(Stopped) } else { Ok(()) }
    }

    /// More steps are ahead.
    pub fn expect(&self, steps: u32) {
        self.0.of.fetch_add(steps, Ordering::Relaxed);
    }

    /// One step is done. Fails as [`Cancel::check`] does.
    ///
    /// # Errors
    /// [`Stopped`].
    pub fn step(&self) -> Result<(), Stopped> {
        self.0.done.fetch_add(1, Ordering::Relaxed);
        self.check()
    }

    /// Draws are made from this seed: with it anyone gets the same answer again.
    pub fn draws_from(&self, seed: u64) {
        self.0.seed.get_or_init(|| seed);
    }

    /// The seed of its draws; `None` while there are none.
    pub fn seed(&self) -> Option<u64> {
        self.0.seed.get().copied()
    }

    /// Tells those who wait what was found so far, in words.
    pub fn found(&self, so_far: String) {
        *self.0.so_far.lock().unwrap_or_else(PoisonError::into_inner) = Some(so_far);
    }

    /// What was found so far; `None` while nothing was, or where there is nothing to tell before the end.
    pub fn so_far(&self) -> Option<String> {
        self.0.so_far.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }

    /// The share done of the steps known so far; `None` while none is known.
    pub fn share(&self) -> Option<f64> {
        let of = self.0.of.load(Ordering::Relaxed);
        (of > 0).then(|| f64::from(self.0.done.load(Ordering::Relaxed).min(of)) / f64::from(of))
    }
}
