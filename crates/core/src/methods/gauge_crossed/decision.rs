//! Whether an operator stands out: means against the decision limits of an analysis of means, sds against those of an
//! analysis of means for variances.
//!
//! Means: x̄ ± h s √((k − 1)/N) with the repeatability s and h of [`anom`] (Nelson 1983). Variances: the share of one operator's
//! sum of squares in that of all is Beta(ν/2, (k − 1)ν/2) when all repeat alike, ν = parts (trials − 1); limits at 0.025/k
//! on either side (Wludyka and Nelson 1997, J. Quality Technology 29).

use serde::Serialize;

use super::cells::{Cells, mean, range};
use crate::numeric::{anom, root, tails};

/// An operator beside the others.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = GaugeOperator))]
pub struct Operator {
    /// The name.
    pub label: String,
    /// Mean of all readings.
    pub mean: f64,
    /// That less the mean of all operators.
    pub bias: f64,
    /// Whether the bias passes its limits.
    pub off: bool,
    /// Sd within parts; null with one reading a cell.
    pub sd: Option<f64>,
    /// Mean range within parts; null with one reading a cell.
    pub mean_range: Option<f64>,
    /// Whether the sd passes its limits.
    pub inconsistent: bool,
}

/// What operators are held against, and how they stand.
pub struct Decision {
    pub operators: Vec<Operator>,
    /// Limits of a bias; `None` with one operator or one reading a cell.
    pub bias_limits: Option<[f64; 2]>,
    /// Limits of an sd.
    pub sd_limits: Option<[f64; 2]>,
}

/// The chance that any operator is said to stand out when none does.
const ALPHA: f64 = 0.05;

impl Decision {
    pub fn of(cells: &Cells) -> Decision {
        let (p, o, r) = (cells.parts.len(), cells.operators.len(), cells.trials);
        let df = (p * (r - 1)) as f64;
        let means: Vec<f64> =
            (0..o).map(|operator| mean(&(0..p).map(|part| mean(cells.cell(part, operator))).collect::<Vec<_>>())).collect();
        let grand = mean(&means);
        let squares = |operator: usize| {
            let of = |part: usize| {
                let cell = cells.cell(part, operator);
                let own = mean(cell);
                cell.iter().map(|value| (value - own).powi(2)).sum::<f64>()
            };
            (0..p).map(of).sum::<f64>()
        };
        let squares: Vec<f64> = (0..o).map(squares).collect();
        let pooled = squares.iter().sum::<f64>() / (df * o as f64);
        let judged = o > 1 && df > 0.0 && pooled > 0.0;
        let k = o as f64;
        let bias_limits = judged.then(|| {
            let reach = anom::decision(o, df * k, ALPHA) * (pooled * (k - 1.0) / (cells.values.len() as f64)).sqrt();
            [-reach, reach]
        });
        let sd_limits = judged.then(|| {
            let share = |below: f64| root::between(0.0, 1.0, |share| tails::beta_below(0.5 * df, 0.5 * df * (k - 1.0), share) < below);
            [0.5 * ALPHA / k, 1.0 - 0.5 * ALPHA / k].map(|below| (k * pooled * share(below)).sqrt())
        });
        let outside = |value: f64, limits: Option<[f64; 2]>| limits.is_some_and(|[low, high]| value < low || value > high);
        let one = |operator: usize| {
            let sd = (df > 0.0).then(|| (squares[operator] / df).sqrt());
            let ranges = || mean(&(0..p).map(|part| range(cells.cell(part, operator))).collect::<Vec<_>>());
            let bias = means[operator] - grand;
            Operator {
                label: cells.operators[operator].clone(),
                mean: means[operator],
                bias,
                off: outside(bias, bias_limits),
                sd,
                mean_range: (r > 1).then(ranges),
                inconsistent: sd.is_some_and(|sd| outside(sd, sd_limits)),
            }
        };
        Decision { operators: (0..o).map(one).collect(), bias_limits, sd_limits }
    }
}
