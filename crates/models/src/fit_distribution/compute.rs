//! Fits every shape and recommends the best.

use super::card::SEED;
use super::numbers::{Fit, Numbers, Parameter};
use acorn_data::figure::histogram::{BarWidth, Bars, Bin, CurvePoint, Scale};
use acorn_maths::describe::{decimals, moments};
use acorn_maths::judgement::{misfits, unlikely};
use acorn_maths::shapes::{Fitted, Untested, rank};
use acorn_maths::sorting::Sorted;
use acorn_maths::words::chance;
use acorn_study::{Cancel, StudyError, Tone, ValidatedSpec};

/// Shapes recommended, at most.
const RECOMMENDED: usize = 3;
/// Fewest values.
const LEAST: usize = 5;
/// Values that shapes are fitted to, at most: evenly picked of the sorted ones.
pub const FITTED_MOST: usize = 20_000;
/// Points of a curve.
const POINTS: usize = 81;

/// Fits the shapes to the values of a column that are there.
///
/// # Errors
/// [`StudyError::TooFewValues`] below five values or where all are one, [`StudyError::Stopped`].
pub fn compute(asked: &ValidatedSpec, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let column = asked.needed("measure")?;
    let values = asked.numbers("measure")?;
    let sorted = Sorted::of(values);
    let found = moments(&sorted);
    if sorted.len() < LEAST || found.sd.is_none_or(|sd| sd == 0.0) {
        let have = if found.sd == Some(0.0) { 1 } else { sorted.len() };
        return Err(StudyError::TooFewValues { column: column.name.clone(), have, need: LEAST });
    }
    let seed = asked.number("seed").unwrap_or(SEED) as u64;
    // More values tell no more of a shape, and take as much longer.
    let fitted = sorted.thinned(FITTED_MOST);
    let mut ranked = rank(&fitted, seed, cancel)?;
    let tried = ranked.len();
    let none_fits =
        ranked.iter().any(|fitted| fitted.p.is_some()) && ranked.iter().all(|fitted| fitted.p.is_none_or(|p| unlikely(Some(p))));
    // A threshold that gains nothing is the same shape once more.
    ranked.retain(|fitted| fitted.untested != Some(Untested::NoGain));
    let bars = match Scale::of(&sorted, Bars { width: BarWidth::Auto, start: None }) {
        Ok(Some(scale)) => scale.fill(&sorted, sorted[sorted.len() - 1]),
        _ => Vec::new(),
    };
    let fits = ranked.into_iter().take(RECOMMENDED).map(|one| recommended(&one, sorted.len(), &bars)).collect();
    Ok(Numbers {
        column: column.name.clone(),
        unit: column.info.unit.clone().unwrap_or_default(),
        n: sorted.len(),
        mean: found.mean,
        sd: found.sd,
        bars,
        fits,
        tried,
        none_fits,
        writer: column.info.writer(decimals(values)),
    })
}

fn recommended(fitted: &Fitted, n: usize, bars: &[Bin]) -> Fit {
    let shape = &fitted.shape;
    let refuted = misfits(n, fitted.p, Some(fitted.ad));
    let (tone, why) = match (fitted.p, fitted.untested) {
        (Some(p), _) if refuted => (Tone::Alarm, format!("the values contradict it ({})", chance(p))),
        (Some(p), _) if unlikely(Some(p)) => (Tone::Caution, format!("so many values show small departures ({})", chance(p))),
        (Some(p), _) if n < 30 => (Tone::Caution, format!("not contradicted ({}), but so few values contradict little", chance(p))),
        (Some(p), _) => (Tone::Calm, format!("not contradicted ({})", chance(p))),
        (None, untested) => (Tone::Unsure, untested.map_or("not tested", Untested::display_text).to_owned()),
    };
    let (from, to) = (bars.first().map_or(0.0, |bar| bar.from), bars.last().map_or(1.0, |bar| bar.to));
    let width = bars.first().map_or(1.0, |bar| bar.to - bar.from);
    let point = |place: usize| {
        let value = from + (to - from) * place as f64 / (POINTS - 1) as f64;
        let count = shape.ln_density(value).exp() * width * n as f64;
        CurvePoint { value, count: if count.is_finite() { count } else { 0.0 } }
    };
    Fit {
        distribution: shape.family.plain().name().to_owned(),
        words: shape.family.display_text().to_owned(),
        parameters: shape.parameters().into_iter().map(|(name, value)| Parameter { name, value }).collect(),
        p: fitted.p,
        ad: fitted.ad,
        aic: fitted.aic,
        tone,
        why,
        curve: (0..POINTS).map(point).collect(),
    }
}
