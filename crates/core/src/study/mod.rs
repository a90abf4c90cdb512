//! What a question is made of and what its answer looks like, the same for every method.

pub mod advice;
pub mod card;
mod error;
mod outcome;
mod spec;
pub mod view;
pub mod words;

pub use card::MethodCard;
pub use error::StudyError;
pub use outcome::{Computed, FoundSignal, NextQuestion, Note, Offer, Outcome, Pin, Tone, Verdict, ViewNumbers, letter_notes};
pub use spec::{DataSource, Options, RoleColumns, Spec, in_range};
pub use view::View;

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Tells a running computation that nobody waits for it any more.
#[derive(Clone, Debug, Default)]
pub struct Cancel(Arc<AtomicBool>);

impl Cancel {
    /// Asks the computation to stop at its next check.
    pub fn stop(&self) {
        self.0.store(true, Ordering::Relaxed);
    }

    /// Fails when a stop was asked for; called between passes over the data.
    ///
    /// # Errors
    /// [`StudyError::Stopped`].
    pub fn check(&self) -> Result<(), StudyError> {
        if self.0.load(Ordering::Relaxed) { Err(StudyError::Stopped) } else { Ok(()) }
    }
}
