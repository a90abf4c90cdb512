//! What a gauge study takes.

use serde::Deserialize;

use crate::frame::Column;
use crate::study::filled::bad;
use crate::study::{Filled, StudyError};

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
/// Sds in a study variation unless said otherwise.
pub const MULTIPLIER: f64 = 6.0;

/// What the gauge is held against; each is there when its input is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Against {
    /// Lower specification limit, in the unit of the measurement.
    pub lsl: Option<f64>,
    /// Upper specification limit.
    pub usl: Option<f64>,
    /// The tolerance, when it is given by itself.
    pub tolerance: Option<f64>,
    /// The sd of the process, known from elsewhere.
    pub process_sd: Option<f64>,
    /// Sds in a study variation.
    pub multiplier: f64,
}

impl Against {
    /// What `multiplier` sds may take: the tolerance, or twice the way from the mean to the only limit.
    pub fn room(&self, mean: f64) -> Option<f64> {
        let one_sided = self.lsl.xor(self.usl).map(|limit| 2.0 * (limit - mean).abs());
        let both = self.usl.zip(self.lsl).map(|(usl, lsl)| usl - lsl);
        self.tolerance.or(both).or(one_sided).filter(|room| *room > 0.0)
    }
}

/// The statement, read.
pub struct Params<'f> {
    /// The readings, with their unit.
    pub measure: &'f Column,
    /// What was read.
    pub part: &'f Column,
    /// Who read it.
    pub operator: &'f Column,
    /// Ids of the rows.
    pub frame: &'f crate::frame::Frame,
    pub way: Way,
    pub alpha_pool: f64,
    pub against: Against,
}

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError`] names the role or option.
    pub fn read(asked: &Filled<'f>) -> Result<Params<'f>, StudyError> {
        let measure = asked.needed("measure")?;
        let [lsl, usl] = asked.limits(measure)?;
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
            against: Against {
                lsl,
                usl,
                tolerance: asked.number("tolerance"),
                process_sd: asked.number("process_sd"),
                multiplier: asked.number("multiplier").unwrap_or(MULTIPLIER),
            },
        })
    }
}
