//! The scale on which a shape is taken for granted: from values to a normal, and back.

use super::params::{Params, ShapeChoice};
use crate::numeric::normal;
use crate::numeric::shape::NORMALITY_LEAST;
use crate::numeric::shapes::{BoxCox, Family, Fitted, Johnson, fit, judge, rank};
use crate::numeric::sorting::Sorted;
use crate::study::filled::bad;
use crate::study::{Cancel, StudyError};

/// The shape that values are taken to have.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Taken {
    /// Normal as they are.
    Normal,
    /// Normal after a power.
    BoxCox(BoxCox),
    /// Normal after one of Johnson's functions.
    Johnson(Johnson),
    /// A fitted family.
    Fitted(Fitted),
    /// No shape: their own percentiles.
    Percentile,
}

/// More than this share of a shape below a natural bound contradicts it.
pub const BELOW_BOUND: f64 = 0.001_35;
/// Scores beyond this say no more than that a value lies far out.
const FAR: f64 = 37.0;

impl Taken {
    /// A value on the scale on which the shape is normal.
    pub fn score(&self, x: f64) -> f64 {
        match self {
            Taken::Normal | Taken::Percentile => x,
            Taken::BoxCox(power) => power.score(x),
            Taken::Johnson(system) => system.score(x),
            Taken::Fitted(fitted) => {
                // From the smaller side, which keeps its digits.
                let (below, above) = (fitted.shape.below(x), fitted.shape.above(x));
                let score = if below < above { normal::quantile(below) } else { -normal::quantile(above) };
                score.clamp(-FAR, FAR)
            }
        }
    }

    /// Back to the scale of the values; infinite where the shape never gets to.
    pub fn value_at(&self, y: f64) -> f64 {
        match self {
            Taken::Normal | Taken::Percentile => y,
            Taken::BoxCox(power) => power.value_at(y),
            Taken::Johnson(system) => system.value_at(y),
            Taken::Fitted(fitted) => fitted.shape.quantile(normal::below(y), normal::above(y)),
        }
    }

    /// Whether values are judged as they are.
    pub fn is_plain(&self) -> bool {
        matches!(self, Taken::Normal | Taken::Percentile)
    }

    /// What it is called in a sentence: "a normal", "a Weibull".
    pub fn words(&self) -> String {
        match self {
            Taken::Normal => "a normal".to_owned(),
            Taken::BoxCox(power) => format!("a normal after the power {:.2}", power.lambda),
            Taken::Johnson(system) => format!("Johnson's {:?}", system.system),
            Taken::Fitted(fitted) => {
                let name = fitted.shape.family.words();
                format!("{} {name}", if name.starts_with(['a', 'e', 'i', 'o', 'u']) { "an" } else { "a" })
            }
            Taken::Percentile => "no shape in particular".to_owned(),
        }
    }
}

/// Takes the shape that was asked for, of sorted values; and the ranking, when the best was asked for. Values that do
/// not vary have none but the normal.
///
/// # Errors
/// [`StudyError::BadOption`] says why the shape cannot be taken and what to do; [`StudyError::Stopped`].
pub fn take(params: &Params, sorted: &Sorted, cancel: &Cancel) -> Result<(Taken, Vec<Fitted>), StudyError> {
    let varies = sorted.first() != sorted.last();
    let refuse = |problem: String| Err(bad("shape", problem));
    let low = sorted.first().copied().unwrap_or(0.0);
    match params.shape {
        ShapeChoice::Percentile => Ok((Taken::Percentile, Vec::new())),
        _ if !varies => Ok((Taken::Normal, Vec::new())),
        ShapeChoice::Normal => Ok((Taken::Normal, Vec::new())),
        ShapeChoice::BoxCox if low <= 0.0 => refuse(format!(
            "a power needs values above 0, and the smallest is {low}; add more than {} to values and limits, or take a fitted shape",
            -low
        )),
        ShapeChoice::BoxCox => match BoxCox::fit(sorted) {
            Some(power) => Ok((Taken::BoxCox(power), Vec::new())),
            None => refuse("no power makes these values normal".to_owned()),
        },
        ShapeChoice::Johnson => match Johnson::fit(sorted) {
            Some(system) => Ok((Taken::Johnson(system), Vec::new())),
            None => refuse(format!(
                "none of Johnson's functions holds these {} values; it takes {NORMALITY_LEAST} or more that vary",
                sorted.len()
            )),
        },
        ShapeChoice::Fit(family) => match fit(family, sorted) {
            Some(shape) => Ok((Taken::Fitted(judge(shape, sorted, cancel)?), Vec::new())),
            None => refuse(no_fit(family, low)),
        },
        ShapeChoice::BestFit => {
            let mut ranked = rank(sorted, cancel)?;
            // A shape that reaches below what can be is wrong, however well it fits above.
            if let Some(bound) = params.bound {
                ranked.sort_by_key(|fitted| fitted.shape.below(bound) > BELOW_BOUND);
            }
            match ranked.first() {
                Some(best) => Ok((Taken::Fitted(*best), ranked)),
                None => refuse("no family fits these values; take percentiles".to_owned()),
            }
        }
    }
}

fn no_fit(family: Family, low: f64) -> String {
    let words = family.words();
    if family.has_threshold() {
        let plain = family.plain().words();
        format!("no {words} fits: no threshold makes the values likelier than its neighbours do; take the {plain} without one")
    } else {
        format!("no {words} fits: it needs values above 0, and the smallest is {low}; take one above a threshold")
    }
}
