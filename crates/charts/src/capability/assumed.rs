//! The scale on which a shape is taken for granted: from values to a normal, and back.

use super::params::{Params, ShapeChoice};
use acorn_maths::judgement::{PLENTY, unlikely};
use acorn_maths::normal;
use acorn_maths::shape::NORMALITY_LEAST;
use acorn_maths::shapes::{BoxCox, Family, Fitted, Johnson, Shape, aic, fit, judge, rank};
use acorn_maths::sorting::Sorted;
use acorn_maths::words::{ValueFormat, typed};
use acorn_study::reading::bad;
use acorn_study::{Cancel, StudyError};

/// The shape that values are assumed to have.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum AssumedDistribution {
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

impl AssumedDistribution {
    /// A value on the scale on which the shape is normal.
    pub fn score(&self, x: f64) -> f64 {
        match self {
            AssumedDistribution::Normal | AssumedDistribution::Percentile => x,
            AssumedDistribution::BoxCox(power) => power.score(x),
            AssumedDistribution::Johnson(system) => system.score(x),
            AssumedDistribution::Fitted(fitted) => {
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
            AssumedDistribution::Normal | AssumedDistribution::Percentile => y,
            AssumedDistribution::BoxCox(power) => power.value_at(y),
            AssumedDistribution::Johnson(system) => system.value_at(y),
            AssumedDistribution::Fitted(fitted) => fitted.shape.quantile(normal::below(y), normal::above(y)),
        }
    }

    /// Whether values are judged as they are.
    pub fn is_plain(&self) -> bool {
        matches!(self, AssumedDistribution::Normal | AssumedDistribution::Percentile)
    }

    /// Of a fitted shape: it, and all others that fit as well and do not reach below the natural bound. Among those ranked
    /// these are the ones that the values do not refute. Where one family was chosen, they are the families whose AIC is
    /// within 2 of the smallest (Burnham and Anderson 2002, Model Selection and Multimodel Inference, sec. 2.6), because
    /// testing all would take long; very many values tell shapes apart, and are not fitted all over.
    pub fn fitting_as_well(&self, ranked: &[Fitted], sorted: &Sorted, bound: Option<f64>) -> Vec<Shape> {
        let AssumedDistribution::Fitted(own) = self else { return Vec::new() };
        let reaches = |shape: &Shape| bound.is_some_and(|bound| shape.below(bound) > BELOW_BOUND);
        let others: Vec<Shape> = if !ranked.is_empty() {
            ranked.iter().filter(|one| one.p.is_some() && !unlikely(one.p)).map(|one| one.shape).collect()
        } else if sorted.len() <= PLENTY {
            let all = Family::ALL.into_iter().filter_map(|family| fit(family, sorted));
            let all: Vec<(Shape, f64)> = all.map(|shape| (shape, aic(&shape, sorted))).collect();
            let least = all.iter().map(|(_, aic)| *aic).fold(own.aic, f64::min);
            all.into_iter().filter(|(_, aic)| *aic <= least + 2.0).map(|(shape, _)| shape).collect()
        } else {
            Vec::new()
        };
        std::iter::once(own.shape).chain(others.into_iter().filter(|shape| !reaches(shape))).collect()
    }

    /// What it is called in a sentence: "a normal", "a Weibull".
    pub fn display_text(&self) -> String {
        match self {
            AssumedDistribution::Normal => "a normal".to_owned(),
            AssumedDistribution::BoxCox(power) => format!("a normal after the power {}", ValueFormat::fixed(2).value(power.lambda)),
            AssumedDistribution::Johnson(system) => format!("Johnson's {:?}", system.system),
            AssumedDistribution::Fitted(fitted) => {
                let name = fitted.shape.family.display_text();
                format!("{} {name}", if name.starts_with(['a', 'e', 'i', 'o', 'u']) { "an" } else { "a" })
            }
            AssumedDistribution::Percentile => "no shape in particular".to_owned(),
        }
    }
}

/// Takes the shape that was asked for, of sorted values; and the ranking, when the best was asked for. Values that do
/// not vary have none but the normal.
///
/// # Errors
/// [`StudyError::BadOption`] says why the shape cannot be assumed and what to do; [`StudyError::Stopped`].
pub fn take(params: &Params, sorted: &Sorted, cancel: &Cancel) -> Result<(AssumedDistribution, Vec<Fitted>), StudyError> {
    let varies = sorted.first() != sorted.last();
    let refuse = |problem: String| Err(bad("shape", problem));
    let low = sorted.first().copied().unwrap_or(0.0);
    match params.shape {
        ShapeChoice::Percentile => Ok((AssumedDistribution::Percentile, Vec::new())),
        _ if !varies => Ok((AssumedDistribution::Normal, Vec::new())),
        ShapeChoice::Normal => Ok((AssumedDistribution::Normal, Vec::new())),
        ShapeChoice::BoxCox if low <= 0.0 => refuse(format!(
            "a power needs values above 0, and the smallest is {}; add more than {} to values and limits, or take a fitted shape",
            typed(low),
            typed(-low)
        )),
        ShapeChoice::BoxCox => match BoxCox::fit(sorted) {
            Some(power) => Ok((AssumedDistribution::BoxCox(power), Vec::new())),
            None => refuse("no power makes these values normal".to_owned()),
        },
        ShapeChoice::Johnson => match Johnson::fit(sorted) {
            Some(system) => Ok((AssumedDistribution::Johnson(system), Vec::new())),
            None => refuse(format!(
                "none of Johnson's functions holds these {} values; it takes {NORMALITY_LEAST} or more that vary",
                sorted.len()
            )),
        },
        ShapeChoice::Fit(family) => match fit(family, sorted) {
            Some(shape) => Ok((AssumedDistribution::Fitted(judge(shape, sorted, params.seed, cancel)?), Vec::new())),
            None => refuse(no_fit(family, low)),
        },
        ShapeChoice::BestFit => {
            let mut ranked = rank(sorted, params.seed, cancel)?;
            // A shape that reaches below what can be is wrong, however well it fits above.
            if let Some(bound) = params.bound {
                ranked.sort_by_key(|fitted| fitted.shape.below(bound) > BELOW_BOUND);
            }
            match ranked.first() {
                Some(best) => Ok((AssumedDistribution::Fitted(*best), ranked)),
                None => refuse("no family fits these values; take percentiles".to_owned()),
            }
        }
    }
}

fn no_fit(family: Family, low: f64) -> String {
    let words = family.display_text();
    if family.has_threshold() {
        let plain = family.plain().display_text();
        format!("no {words} fits: no threshold makes the values likelier than its neighbours do; take the {plain} without one")
    } else {
        format!("no {words} fits: it needs values above 0, and the smallest is {}; take one above a threshold", typed(low))
    }
}
