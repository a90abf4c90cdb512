//! What a gauge study takes.

use serde::Deserialize;

use acorn_data::frame::{Column, Frame};
use acorn_study::gauge::against::Against;
use acorn_study::reading::bad;
use acorn_study::{StudyError, ValidatedSpec};

/// Which way the components are found.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Way {
    /// Both, side by side.
    #[default]
    Both,
    /// The variance analysis alone.
    Anova,
    /// The range method alone.
    Range,
}

/// The interaction is kept below this chance unless said otherwise.
pub const ALPHA_POOL: f64 = 0.25;

/// The statement, read.
pub struct Params<'f> {
    /// The readings, with their unit.
    pub measure: &'f Column,
    /// What was read.
    pub part: &'f Column,
    /// Who read it.
    pub operator: &'f Column,
    /// Ids of the rows.
    pub frame: &'f Frame,
    pub way: Way,
    pub alpha_pool: f64,
    pub against: Against,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Params<'f>, StudyError> {
        let measure = asked.needed("measure")?;
        let (part, operator) = (asked.needed("part")?, asked.needed("operator")?);
        if part.name == operator.name {
            return Err(bad("operator", "parts and operators are the same column; choose who read them"));
        }
        Ok(Params {
            measure,
            part,
            operator,
            frame: asked.frame(),
            way: asked.option("method")?.unwrap_or_default(),
            alpha_pool: asked.number("alpha_pool").unwrap_or(ALPHA_POOL),
            against: Against::read(asked, measure)?,
        })
    }
}
