//! What the spread of a gauge is held against.

use serde::Serialize;

use crate::{StudyError, ValidatedSpec};
use acorn_data::frame::Column;

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
    /// Reads limits, `tolerance`, `process_sd` and `multiplier` of a statement about a column.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when the lower limit does not lie below the upper one.
    pub fn read(asked: &ValidatedSpec<'_>, measure: &Column) -> Result<Against, StudyError> {
        // Parts with limits of their own say nothing of the room that the gauge has.
        let [lsl, usl] = match asked.limits(measure) {
            Err(StudyError::LimitsDiffer { .. }) => [None, None],
            limits => limits?,
        };
        Ok(Against {
            lsl,
            usl,
            tolerance: asked.number("tolerance"),
            process_sd: asked.number("process_sd"),
            multiplier: asked.number("multiplier").unwrap_or(MULTIPLIER),
        })
    }

    /// What `multiplier` sds may take: the tolerance, or twice the way from the mean to the only limit.
    pub fn room(&self, mean: f64) -> Option<f64> {
        let one_sided = self.lsl.xor(self.usl).map(|limit| 2.0 * (limit - mean).abs());
        let both = self.usl.zip(self.lsl).map(|(usl, lsl)| usl - lsl);
        self.tolerance.or(both).or(one_sided).filter(|room| *room > 0.0)
    }

    /// What a verdict is held against: the tolerance before the process before the study.
    pub fn basis(&self, room: Option<f64>) -> Basis {
        match (room, self.process_sd) {
            (Some(_), _) => Basis::Tolerance,
            (None, Some(_)) => Basis::Process,
            (None, None) => Basis::Study,
        }
    }

    /// How wide the basis is, in the unit of the measurement; `None` when nothing varies.
    pub fn wide(&self, room: Option<f64>, total: f64) -> Option<f64> {
        match self.basis(room) {
            Basis::Tolerance => room,
            Basis::Process => self.process_sd.map(|process| self.multiplier * process),
            Basis::Study => (total > 0.0).then(|| self.multiplier * total.sqrt()),
        }
    }

    /// The share of the basis that a variance takes beside the whole variance. Where nothing varies nothing is told of the
    /// gauge, not that it is perfect.
    pub fn share(&self, room: Option<f64>, variance: f64, total: f64) -> Option<f64> {
        let wide = self.wide(room, total)?;
        (total > 0.0).then(|| self.multiplier * variance.sqrt() / wide)
    }
}

/// What the gauge's spread is held against.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeBasis)]
#[serde(rename_all = "kebab-case")]
pub enum Basis {
    /// The tolerance.
    Tolerance,
    /// The process, whose sd is known.
    Process,
    /// Everything seen in the study.
    Study,
}

impl Basis {
    /// "the tolerance".
    pub fn display_text(self) -> &'static str {
        match self {
            Basis::Tolerance => "the tolerance",
            Basis::Process => "the process spread",
            Basis::Study => "the spread of the study",
        }
    }
}
