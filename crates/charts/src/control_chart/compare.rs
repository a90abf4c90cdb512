//! Two stretches of one process against each other: before and after, and whether frozen limits still fit.
//!
//! Means by Welch's t on the plotted values, so that scatter between samples counts; spreads by F on the short-term
//! sds with the degrees of freedom of their estimators (0.62 (n - 1) for moving ranges, Σ (nᵢ - 1) for samples), fewer of them where tails
//! are heavy. Against known values: one-sample t, and chi-square. Sources: Welch (1947), Biometrika 34; ISO 2854.

use std::ops::Range;
use std::sync::Arc;

use serde::Serialize;

use super::kind::ChartKind;
use super::panel::Panel;
use super::params::{LimitSource, Params, SigmaFrom};
use super::patterns::Pattern;
use super::points::Points;
use super::process::{moving_ranges, of_values};
use super::samples::{Samples, of_samples};
use acorn_maths::describe::moments;
use acorn_maths::equal_means::{Sample, difference};
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::kurtosis::{df_worth, excess_within};
use acorn_maths::tails::{chi_square_above, f_above, f_upper, t_beyond};

/// Two neighbouring phases.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = PhaseComparison)]
pub struct Comparison {
    /// The earlier phase.
    pub before: String,
    /// The later phase.
    pub after: String,
    /// Mean of the plotted values before.
    pub mean_before: f64,
    /// Mean of the plotted values after.
    pub mean_after: f64,
    /// After less before.
    pub shift: f64,
    /// Its 95 % interval.
    pub shift_ci95: [f64; 2],
    /// The chance of so large a shift when there was none.
    pub p_shift: f64,
    /// Short-term sd after over before; null for counts, or without spread.
    pub spread_ratio: Option<f64>,
    /// Its 95 % interval.
    pub spread_ratio_ci95: Option<[f64; 2]>,
    /// The chance of so large a change of spread, both sides, when there was none.
    pub p_spread: Option<f64>,
}

/// The newest points against limits settled before them.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Freshness {
    /// First of the newest points.
    pub first: usize,
    /// Last of them.
    pub last: usize,
    /// How many there are; missing ones and those left out are none.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// Their mean less the centre of the limits.
    pub shift: f64,
    /// The chance of so large a shift when the process is as it was.
    pub p_mean: f64,
    /// Their short-term sd over the one behind the limits.
    pub spread_ratio: Option<f64>,
    /// The chance of so large a change of spread.
    pub p_spread: Option<f64>,
    /// How many of them lie beyond the limits.
    pub beyond: usize,
    /// Whether the limits no longer describe the process.
    pub stale: bool,
}

/// Fewest new points to judge limits by, and most.
const NEWEST: Range<usize> = 20..50;
/// Mean, sd and short-term sd of a stretch of plotted values.
struct Stretch {
    n: f64,
    mean: f64,
    sd: f64,
    within: f64,
    df: f64,
}

impl Stretch {
    fn sample(&self) -> Sample {
        Sample { n: self.n, mean: self.mean, sd: self.sd }
    }
}

/// What stretches are taken from.
pub struct Source<'s> {
    pub params: &'s Params<'s>,
    pub points: &'s Points,
    /// The plotted values of the location panel, or what they are made from for charts with a memory.
    pub values: &'s [f64],
    pub samples: Option<&'s Samples>,
    /// The values of the samples.
    pub charted: &'s [Arc<[f64]>],
}

impl Source<'_> {
    fn stretch(&self, points: impl Iterator<Item = usize> + Clone) -> Option<Stretch> {
        let values: Vec<f64> = points.clone().map(|i| if self.points.is_omitted(i) { f64::NAN } else { self.values[i] }).collect();
        let of = moments(&values);
        let (mean, sd) = of.mean.zip(of.sd)?;
        let process = match self.samples {
            Some(samples) => {
                let (first, last) = (points.clone().next()?, points.last()?);
                of_samples(samples, first..last + 1, SigmaFrom::Pooled)
            }
            None => {
                let mut ranges = vec![f64::NAN; values.len()];
                moving_ranges(&values, 2, &mut ranges);
                of_values(&of, &moments(&ranges), &ranges, SigmaFrom::MrMean, 2)
            }
        };
        let counting = self.params.kind.limits_from_counting() || matches!(self.params.kind, ChartKind::G | ChartKind::T);
        let within = if counting { f64::NAN } else { process.sigma };
        Some(Stretch { n: of.n as f64, mean, sd, within, df: process.df })
    }

    /// The last two phases against each other; `None` when either has no spread.
    pub fn phases(&self) -> Option<Comparison> {
        let [.., before, after] = &self.points.phases[..] else { return None };
        let (a, b) = (self.stretch(before.points.clone())?, self.stretch(after.points.clone())?);
        let found = difference(a.sample(), b.sample())?;
        let spread = self.spread([(&a, before.points.clone()), (&b, after.points.clone())]);
        Some(Comparison {
            before: before.label.clone()?,
            after: after.label.clone()?,
            mean_before: a.mean,
            mean_after: b.mean,
            shift: found.shift,
            shift_ci95: found.ci95,
            p_shift: found.p,
            spread_ratio: spread.map(|(ratio, _)| ratio),
            spread_ratio_ci95: spread.map(|(ratio, _)| {
                // s_b²/s_a² over F(1-α/2; b, a) up to the same times F(1-α/2; a, b).
                [ratio / f_upper(0.025, b.df, a.df).sqrt(), ratio * f_upper(0.025, a.df, b.df).sqrt()]
            }),
            p_spread: spread.map(|(_, p)| p),
        })
    }

    /// The newest points against a baseline or known values; `None` when too few came after, or limits are live.
    pub fn freshness(&self) -> Option<Freshness> {
        let start = match self.params.limits {
            LimitSource::Baseline { last, .. } => last + 1,
            LimitSource::Known { .. } => 0,
            LimitSource::Data => return None,
        };
        let there = |i: &usize| !self.points.is_omitted(*i) && !self.values[*i].is_nan();
        let mut newest: Vec<usize> = (start..self.points.len()).rev().filter(there).take(NEWEST.end).collect();
        newest.reverse();
        if newest.len() < NEWEST.start {
            return None;
        }
        let (first, last) = (newest[0], newest[newest.len() - 1]);
        let new = self.stretch(first..last + 1)?;
        let mut scatters = false;
        let (shift, p_mean, spread) = match self.params.limits {
            LimitSource::Baseline { first, last } => {
                let old = self.stretch(first..last + 1)?;
                if self.params.kind.limits_from_counting() {
                    // Counts have no short-term sd of their own: that of the points tells.
                    let excess = self.excess([first..last + 1, newest[0]..newest[newest.len() - 1] + 1]);
                    let wider =
                        f_above((new.sd / old.sd).powi(2), df_worth(new.n - 1.0, new.n, excess), df_worth(old.n - 1.0, old.n, excess));
                    scatters = wider < VERY_UNLIKELY;
                }
                let found = difference(old.sample(), new.sample())?;
                (found.shift, found.p, self.spread([(&old, first..last + 1), (&new, newest[0]..newest[newest.len() - 1] + 1)]))
            }
            LimitSource::Known { center, sigma, .. } => {
                let center = if self.params.kind == ChartKind::Np { return None } else { center };
                let shift = new.mean - center;
                let error = new.sd / new.n.sqrt();
                if error == 0.0 {
                    return None;
                }
                let spread = sigma.filter(|sigma| *sigma > 0.0 && new.within.is_finite()).map(|sigma| {
                    let ratio = new.within / sigma;
                    let df = self.df_worth(&new, self.excess(std::iter::once(first..last + 1)));
                    let above = chi_square_above(df * ratio * ratio, df);
                    (ratio, 2.0 * above.min(1.0 - above))
                });
                (shift, t_beyond(shift / error, new.n - 1.0), spread)
            }
            LimitSource::Data => return None,
        };
        let p_spread = spread.map(|(_, p)| p);
        let stale = p_mean < VERY_UNLIKELY || p_spread.is_some_and(|p| p < VERY_UNLIKELY) || scatters;
        Some(Freshness {
            first,
            last,
            n: newest.len(),
            mean: new.mean,
            shift,
            p_mean,
            spread_ratio: spread.map(|(ratio, _)| ratio),
            p_spread,
            beyond: 0,
            stale,
        })
    }
}

impl Source<'_> {
    /// Ratio of the short-term standard deviations of two stretches of points and its two-sided chance; `None` when either is unknown or 0.
    fn spread(&self, [(a, points_a), (b, points_b)]: [(&Stretch, Range<usize>); 2]) -> Option<(f64, f64)> {
        let ratio = b.within / a.within;
        if !ratio.is_finite() || ratio == 0.0 || a.df < 1.0 || b.df < 1.0 {
            return None;
        }
        let excess = self.excess([points_a, points_b]);
        let above = f_above(ratio * ratio, self.df_worth(b, excess), self.df_worth(a, excess));
        Some((ratio, 2.0 * above.min(1.0 - above)))
    }

    /// The excess kurtosis within subgroups of some points, or of single values within each stretch.
    fn excess(&self, stretches: impl IntoIterator<Item = Range<usize>>) -> f64 {
        let kept = |point: &usize| !self.points.is_omitted(*point);
        let of_point = |point: usize| -> Vec<f64> {
            let rows = self.points.rows(point);
            rows.iter().flat_map(|&row| self.charted.iter().map(move |column| column[row])).collect()
        };
        let groups: Vec<Vec<f64>> = match self.samples {
            Some(_) => stretches.into_iter().flatten().filter(kept).map(of_point).collect(),
            None => stretches.into_iter().map(|points| points.filter(kept).map(|point| self.values[point]).collect()).collect(),
        };
        excess_within(groups.iter().map(|group| &group[..]))
    }

    /// The df that an sd of a stretch is worth where tails are so heavy.
    fn df_worth(&self, stretch: &Stretch, excess: f64) -> f64 {
        let each = if self.samples.is_some() { 1.0 + stretch.df / stretch.n } else { stretch.n };
        df_worth(stretch.df, each, excess)
    }
}

impl Freshness {
    /// With how many of them lie beyond the limits, which are signals of their own.
    pub fn with_beyond(self, location: &Panel) -> Freshness {
        let signals = location.signals.iter().filter(|signal| signal.pattern == Pattern::BeyondLimits);
        let beyond = signals.flat_map(|signal| signal.first..=signal.last).filter(|point| (self.first..=self.last).contains(point)).count();
        Freshness { beyond, ..self }
    }
}
