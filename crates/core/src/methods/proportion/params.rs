//! What a share takes.

use serde::Deserialize;

use crate::frame::{Column, Missing};
use crate::study::filled::bad;
use crate::study::{Filled, StudyError};

/// What is asked about the claim.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Alternative {
    /// Whether it is another share, either way.
    #[default]
    NotEqual,
    /// Whether it is less.
    Less,
    /// Whether it is more.
    Greater,
}

/// The statement, read: whole counts, `x` at most `n`, `n` at least 1.
pub struct Params<'f> {
    pub x: f64,
    pub n: f64,
    /// Rows without a label.
    pub missing: usize,
    pub claim: Option<f64>,
    pub alternative: Alternative,
    /// The column and the label that counts.
    pub counted: Option<(&'f Column, String)>,
}

/// Most labels of a column.
const LABELS_MOST: usize = 100_000;
/// Beyond this whole numbers have no room for their last digit.
const COUNT_MOST: f64 = 9e15;

impl<'f> Params<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for counts that cannot be, or a label that no row has; [`StudyError::TooFewValues`].
    pub fn read(asked: &Filled<'f>) -> Result<Params<'f>, StudyError> {
        let (claim, alternative) = (asked.number("p0"), asked.option("alternative")?.unwrap_or_default());
        if let Some(column) = asked.column("category") {
            let value: String = asked.option("value")?.ok_or_else(|| bad("value", "choose the label that counts"))?;
            let frame = asked.frame();
            let groups = frame.groups(&[column], None, Missing::Left, LABELS_MOST)?;
            let n: usize = (0..groups.len()).map(|group| groups.rows(group).len()).sum();
            if n == 0 {
                return Err(StudyError::TooFewValues { column: column.name.clone(), have: 0, need: 1 });
            }
            let place = (0..groups.len()).find(|&group| groups.label(group) == Some(value.as_str()));
            let place = place.ok_or_else(|| bad("value", format!("no row of “{}” is {value}", column.name)))?;
            let (x, n_all) = (groups.rows(place).len() as f64, n as f64);
            return Ok(Params { x, n: n_all, missing: frame.rows() - n, claim, alternative, counted: Some((column, value)) });
        }
        let typed = |option: &'static str| -> Result<f64, StudyError> {
            let count: f64 = asked.option(option)?.ok_or_else(|| bad(option, "type a number"))?;
            let whole = (0.0..=COUNT_MOST).contains(&count) && count.fract() == 0.0;
            if whole { Ok(count) } else { Err(bad(option, format!("{count} is not a count: type a whole number from 0 on"))) }
        };
        let (x, n) = (typed("x")?, typed("n")?);
        if n == 0.0 {
            return Err(bad("n", "nothing was looked at; type how many there were"));
        }
        if x > n {
            return Err(bad("x", format!("{x} of {n} cannot be; the part is larger than the whole")));
        }
        Ok(Params { x, n, missing: 0, claim, alternative, counted: None })
    }
}
