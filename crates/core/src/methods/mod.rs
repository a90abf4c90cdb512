//! The register of methods. A new method is one folder here, one line in [`ALL`] and one in [`Numbers`].

pub mod capability;
pub mod control_chart;
pub mod distribution;
pub mod indices;
pub mod sigma_level;

use std::collections::BTreeMap;

use serde::Serialize;

use crate::frame::Frame;
use crate::study::advice::Advice;
use crate::study::{Cancel, Computed, MethodCard, Spec, StudyError};

/// A question that the core can answer.
pub trait Method: Sync {
    /// Its name in a specification.
    fn name(&self) -> &'static str;
    /// How it describes itself.
    fn card(&self) -> MethodCard;
    /// Answers a specification about a frame.
    ///
    /// # Errors
    /// [`StudyError`] when the specification does not fit the method or the data, or when stopped.
    fn compute(&self, frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError>;
    /// Proposes a statement for a frame, from answers to its own questions.
    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice;
}

/// What each method computes, in the shape of its contract.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum Numbers {
    /// Of `capability`.
    Capability(Box<capability::Numbers>),
    /// Of `control-chart`.
    ControlChart(Box<control_chart::Numbers>),
    /// Of `distribution`.
    Distribution(Box<distribution::Numbers>),
    /// Of `indices`.
    Indices(Box<indices::Numbers>),
    /// Of `sigma-level`.
    SigmaLevel(Box<sigma_level::Numbers>),
}

/// All methods, in the order of the work.
pub const ALL: &[&dyn Method] =
    &[&distribution::Distribution, &control_chart::ControlChart, &sigma_level::SigmaLevel, &capability::Capability, &indices::Indices];

/// Answers a specification with the method it names.
///
/// # Errors
/// [`StudyError::UnknownMethod`], or whatever the method refuses.
///
/// # Examples
/// ```
/// use acorn_core::{frame::Frame, methods, study::{Cancel, Spec}};
/// let spec: Spec = serde_json::from_str(r#"{"method": "control-chart", "roles": {"measure": "flux"}}"#).unwrap();
/// let columns = serde_json::json!({"flux": [811.5, 812.0, 810.9]});
/// let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
/// let answer = methods::compute(&frame, &spec, &Cancel::default()).unwrap();
/// // Three values without a signal are not yet a steady process.
/// assert_eq!(answer.verdict.title, "Too few to say");
/// ```
pub fn compute(frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
    named(&spec.method)?.compute(frame, spec, cancel)
}

/// The method of a name.
///
/// # Errors
/// [`StudyError::UnknownMethod`].
pub fn named(name: &str) -> Result<&'static dyn Method, StudyError> {
    let unknown = || StudyError::UnknownMethod { method: name.to_owned(), known: ALL.iter().map(|method| method.name()).collect() };
    ALL.iter().find(|method| method.name() == name).copied().ok_or_else(unknown)
}

/// The cards of all methods.
pub fn cards() -> Vec<MethodCard> {
    ALL.iter().map(|method| method.card()).collect()
}
