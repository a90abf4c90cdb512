//! What a look at a distribution takes.

use std::sync::Arc;

use serde::{Deserialize, Serialize};

use acorn_data::figure::histogram::Bars;
use acorn_data::frame::{Column, Frame};
use acorn_study::{StudyError, ValidatedSpec, bars};

/// Which picture is drawn.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Show {
    /// Histograms.
    #[default]
    #[serde(alias = "heaps")]
    Histograms,
    /// Box plots.
    Boxes,
    /// Every value.
    Values,
    /// Normal probability plots.
    Probability,
}

/// The statement, read.
pub struct Params<'f> {
    pub frame: &'f Frame,
    pub measure: &'f Column,
    pub values: &'f Arc<[f64]>,
    pub groups: Vec<&'f Column>,
    pub bars: Bars,
    pub same_scale: bool,
    pub curve: bool,
    pub show: Show,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        Ok(Params {
            frame: asked.frame(),
            measure: asked.needed("measure")?,
            values: asked.numbers("measure")?,
            groups: asked.columns("group"),
            bars: bars::read(asked)?,
            same_scale: asked.is_on("same_scale"),
            curve: asked.is_on("curve"),
            show: asked.option("show")?.unwrap_or_default(),
        })
    }
}
