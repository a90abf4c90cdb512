//! What a method is.

use std::collections::BTreeMap;

use super::advice::Advice;
use super::{Cancel, Computed, MethodCard, StoredAnswer, StudyError, ToNumbers, ValidatedSpec};
use acorn_data::frame::Frame;

/// A question that the core can answer.
pub trait Method: Sync {
    /// What it keeps of an answer.
    type Answer: StoredAnswer + ToNumbers + 'static;

    /// How it describes itself.
    fn card(&self) -> &'static MethodCard;

    /// Whether it looks itself at the rows to be left out; else they are not there for it.
    fn keeps_omitted(&self) -> bool {
        false
    }

    /// Whether it looks at columns of labels that the question does not name, for what explains its values.
    fn looks_at_labels(&self) -> bool {
        false
    }

    /// Answers a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] when the data do not allow an answer, or when stopped.
    fn compute(&self, asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Computed<Self::Answer>, StudyError>;

    /// Proposes a statement for a frame, from answers to its own questions.
    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice;
}
