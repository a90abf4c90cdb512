//! A gauge study before it is made: what is planned, and whether a study can be made of it.

mod sheet;
mod tells;

use serde::{Deserialize, Serialize};

use crate::StudyError;
use crate::reading::bad;
use acorn_data::frame::ColumnInfo;
use acorn_maths::words::grouped;

pub use sheet::Sheet;
pub use tells::{Expected, Tells};

/// Which study.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[schema(as = GaugeStudyKind)]
#[serde(rename_all = "kebab-case")]
pub enum StudyKind {
    /// Every operator reads every part.
    Crossed,
    /// Each operator has parts of their own.
    Nested,
    /// One piece of known value.
    Single,
    /// Pieces of known value over the range.
    Linearity,
    /// Judgements.
    Attribute,
}

impl StudyKind {
    /// The method that answers it.
    pub fn method(self) -> &'static str {
        match self {
            StudyKind::Crossed => "gauge-crossed",
            StudyKind::Nested => "gauge-nested",
            StudyKind::Single => "gauge-single",
            StudyKind::Linearity => "gauge-linearity",
            StudyKind::Attribute => "gauge-attribute",
        }
    }

    fn has_operators(self) -> bool {
        matches!(self, StudyKind::Crossed | StudyKind::Nested | StudyKind::Attribute)
    }
}

/// What is planned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[schema(as = GaugePlan)]
#[serde(deny_unknown_fields)]
pub struct Plan {
    /// Which study.
    pub kind: StudyKind,
    /// What is read or judged: "groove depth".
    pub characteristic: String,
    /// Its unit, decimals and limits.
    #[serde(default)]
    pub info: ColumnInfo,
    /// Who reads; none for studies of known pieces.
    #[serde(default)]
    pub operators: Vec<String>,
    /// How many parts; of a nested study, of each operator.
    pub parts: usize,
    /// How often each is read.
    pub trials: usize,
    /// Known values of the pieces, one a piece; the first alone for one piece.
    #[serde(default)]
    pub references: Vec<f64>,
    /// Labels that a piece is judged by; the first is bad.
    #[serde(default)]
    pub labels: Vec<String>,
    /// The known label of each piece, where it is known.
    #[serde(default)]
    pub known: Vec<String>,
    /// Who plans it.
    #[serde(default)]
    pub planned_by: String,
    /// From which the order is drawn.
    #[serde(default)]
    pub seed: u64,
}

/// Most rows of a sheet, most operators, most trials.
const ROWS_MOST: usize = 10_000;
const OPERATORS_MOST: usize = 50;
const TRIALS_MOST: usize = 1000;

impl Plan {
    /// Checks that a study can be made of it.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] names what is wrong and what to do; [`StudyError::OutOfRange`].
    pub fn check(&self) -> Result<(), StudyError> {
        if self.characteristic.trim().is_empty() {
            return Err(bad("characteristic", "name what is read, such as groove depth"));
        }
        if let Some(taken) = OWN.iter().find(|own| self.characteristic.trim().eq_ignore_ascii_case(own)) {
            return Err(bad("characteristic", format!("“{taken}” is a column of every sheet; call it something else")));
        }
        let range = |option, value: usize, low: usize, high: usize| crate::in_range(option, value as f64, low as f64, high as f64);
        if self.kind.has_operators() {
            let least = usize::from(self.kind == StudyKind::Nested) + 1;
            range("operators", self.operators.len(), least, OPERATORS_MOST)?;
            let mut names: Vec<&str> = self.operators.iter().map(|name| name.trim()).collect();
            if names.iter().any(|name| name.is_empty()) {
                return Err(bad("operators", "an operator has no name"));
            }
            names.sort_unstable();
            if let Some(twice) = names.windows(2).find(|pair| pair[0] == pair[1]) {
                return Err(bad("operators", format!("{} stands there twice", twice[0])));
            }
        }
        let (parts, trials) = match self.kind {
            StudyKind::Single => (1, 2),
            StudyKind::Linearity => (2, 2),
            StudyKind::Attribute => (2, 1),
            StudyKind::Crossed | StudyKind::Nested => (2, 2),
        };
        range("parts", self.parts, parts, ROWS_MOST)?;
        range("trials", self.trials, trials, TRIALS_MOST)?;
        let rows = self.rows();
        if rows > ROWS_MOST {
            return Err(bad("parts", format!("{} readings are more than a sheet takes, {}", grouped(rows), grouped(ROWS_MOST))));
        }
        if let (Some(lsl), Some(usl)) = (self.info.lsl, self.info.usl)
            && lsl >= usl
        {
            return Err(bad("usl", format!("USL {usl} must lie above LSL {lsl}")));
        }
        let known = self.references.len();
        match self.kind {
            StudyKind::Single if known != 1 => Err(bad("references", "give the known value of the piece")),
            StudyKind::Linearity if known != self.parts => {
                Err(bad("references", format!("give the known value of each of the {} pieces", self.parts)))
            }
            StudyKind::Attribute if self.labels.len() < 2 => Err(bad("labels", "give two labels or more, the bad one first")),
            StudyKind::Attribute if !self.known.is_empty() && self.known.len() != self.parts => {
                Err(bad("known", format!("give what each of the {} pieces is, or nothing", self.parts)))
            }
            StudyKind::Attribute => match self.known.iter().find(|label| !self.labels.contains(label)) {
                Some(odd) => Err(bad("known", format!("“{odd}” is none of the labels {}", self.labels.join(", ")))),
                None => Ok(()),
            },
            _ => Ok(()),
        }
    }

    /// How many readings it takes.
    pub fn rows(&self) -> usize {
        let people = if self.kind.has_operators() { self.operators.len() } else { 1 };
        self.parts.saturating_mul(self.trials).saturating_mul(people)
    }
}

/// Columns of every sheet.
const OWN: [&str; 5] = ["order", "operator", "part", "trial", "reference"];
