//! Whether an operator stands out: means against the decision limits of an analysis of means, sds against those of an
//! analysis of means for variances.
//!
//! Means: x̄ ± h s √((k − 1)/N) with the sd s of what makes them differ by chance and h of [`anom`] (Nelson 1983). Variances: the
//! share of one operator's sum of squares in that of all is Beta(ν/2, (k − 1)ν/2) when all repeat alike, ν the operator's df;
//! limits at 0.025/k on either side (Wludyka and Nelson 1997, J. Quality Technology 29). Where operators have read unequally
//! often, the limits are those of the one whose mean is known least, the widest, for all. Readings with heavy tails leave an sd fewer
//! degrees of freedom ([`df_worth`]).

use serde::Serialize;

use crate::{Decision, Table};
use acorn_maths::describe::mean;
use acorn_maths::kurtosis::{df_worth, excess_within};
use acorn_maths::words::ValueFormat;
use acorn_maths::{anom, root, tails};

/// That an operator reads off.
pub const READS_OFF: Decision = Decision::new("gauge-reads-off", "an operator reads off", ALPHA);
/// That an operator does not repeat like the others.
pub const INCONSISTENT: Decision = Decision::new("gauge-inconsistent", "an operator does not repeat like the others", ALPHA);

/// An operator beside the others.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeOperator)]
pub struct Operator {
    /// The name.
    pub label: String,
    /// Mean of all readings.
    pub mean: f64,
    /// That less the mean of the operators that agree; of all where none do.
    pub bias: f64,
    /// Whether it is this one that differs from the others.
    pub off: bool,
    /// Sd within parts; null with one reading a part.
    pub sd: Option<f64>,
    /// Mean range within parts; null with one reading a part.
    pub mean_range: Option<f64>,
    /// Whether the sd passes its limits.
    pub inconsistent: bool,
}

/// What an operator read.
pub struct Reader {
    /// The name.
    pub label: String,
    /// Mean of what was read, comparable between operators.
    pub mean: f64,
    /// Readings whose plain mean would be known as well as this one is.
    pub n: f64,
    /// Sum of squares within parts.
    pub squares: f64,
    /// Degrees of freedom of that.
    pub df: f64,
    /// Mean range within parts.
    pub mean_range: Option<f64>,
}

/// What operators are held against, and how they stand.
pub struct Judged {
    /// All of them, in their order.
    pub operators: Vec<Operator>,
    /// Limits of a bias; `None` with one operator or nothing to hold it against.
    pub bias_limits: Option<[f64; 2]>,
    /// Limits of an sd.
    pub sd_limits: Option<[f64; 2]>,
}

/// The chance that any operator is said to stand out when none does.
const ALPHA: f64 = 0.05;

impl Judged {
    /// Operators against each other. Means differ by chance as repeating does, unless another variance with its df is given. `cells` are
    /// the readings that one operator made of one part.
    pub fn of<'v>(readers: Vec<Reader>, chance: Option<(f64, f64)>, cells: impl Iterator<Item = &'v [f64]> + Clone) -> Judged {
        let k = readers.len() as f64;
        let df: f64 = readers.iter().map(|one| one.df).sum();
        let pooled = readers.iter().map(|one| one.squares).sum::<f64>() / df;
        let least_df = readers.iter().map(|one| one.df).fold(f64::INFINITY, f64::min);
        let least = readers.iter().map(|one| one.n).fold(f64::INFINITY, f64::min);
        let means: Vec<f64> = readers.iter().map(|one| one.mean).collect();
        let several = readers.len() > 1;
        let (variance, variance_df) = chance.unwrap_or((pooled, df));
        let reach = |among: usize| {
            let k = among as f64;
            anom::decision(among, variance_df, ALPHA) * (variance * (k - 1.0) / (k * least)).sqrt()
        };
        let is_known = several && variance_df > 0.0 && variance > 0.0;
        let bias_limits = is_known.then(|| [-reach(readers.len()), reach(readers.len())]);
        let off = if is_known { who_differs(&means, reach) } else { vec![false; readers.len()] };
        let agreeing: Vec<f64> = means.iter().zip(&off).filter(|(_, off)| !**off).map(|(mean, _)| *mean).collect();
        let middle = if agreeing.is_empty() { mean(&means) } else { mean(&agreeing) };
        let sd_limits = (several && pooled > 0.0 && least_df > 0.0).then(|| {
            let filled = cells.clone().filter(|cell| cell.len() > 1);
            let (count, values) = filled.clone().fold((0.0, 0.0), |(count, values), cell| (count + 1.0, values + cell.len() as f64));
            let worth = df_worth(1.0, values / count, excess_within(filled));
            let [own, others] = [0.5 * worth * least_df, 0.5 * worth * (df - least_df)];
            let share = |below: f64| root::between(0.0, 1.0, |share| tails::beta_below(own, others, share) < below);
            [0.5 * ALPHA / k, 1.0 - 0.5 * ALPHA / k].map(|below| (df * pooled / least_df * share(below)).sqrt())
        });
        let outside = |value: f64, limits: Option<[f64; 2]>| limits.is_some_and(|[low, high]| value < low || value > high);
        let one = |(reader, off): (Reader, bool)| {
            let sd = (reader.df > 0.0).then(|| (reader.squares / reader.df).sqrt());
            Operator {
                label: reader.label,
                mean: reader.mean,
                bias: reader.mean - middle,
                off,
                sd,
                mean_range: reader.mean_range,
                inconsistent: sd.is_some_and(|sd| outside(sd, sd_limits)),
            }
        };
        Judged { operators: readers.into_iter().zip(off).map(one).collect(), bias_limits, sd_limits }
    }
}

/// Who differs: as long as a mean lies beyond the limits about the mean of those who are left, the one farthest from the mean of the others
/// is named and set aside. One operator who reads off would put all of them beyond limits about a mean that holds it. Where no two are left
/// that agree, those beyond the limits about the mean of all are named.
fn who_differs(means: &[f64], reach: impl Fn(usize) -> f64) -> Vec<bool> {
    let mut off = vec![false; means.len()];
    loop {
        let left: Vec<usize> = (0..means.len()).filter(|place| !off[*place]).collect();
        let [_, _, ..] = left[..] else { return off };
        let middle = mean(&left.iter().map(|&place| means[place]).collect::<Vec<_>>());
        let limit = reach(left.len());
        if !left.iter().any(|&place| (means[place] - middle).abs() > limit) {
            return off;
        }
        if left.len() == 2 {
            let (middle, limit) = (mean(means), reach(means.len()));
            return means.iter().map(|mean| (mean - middle).abs() > limit).collect();
        }
        let far = |a: &&usize, b: &&usize| (means[**a] - middle).abs().total_cmp(&(means[**b] - middle).abs());
        if let Some(&farthest) = left.iter().max_by(far) {
            off[farthest] = true;
        }
    }
}

/// The operators as a person reads them; numbers are explained by `bias-limits`, `consistency-limits` and a formula for ranges.
pub fn table(operators: &[Operator], writer: &ValueFormat, ranges: &'static str) -> Table {
    let fine = writer.finer();
    let each = || operators.iter();
    Table::new("operators", "Operators")
        .texts("operator", each().map(|one| Some(one.label.clone())))
        .numbers("mean", Some(&fine), Some("bias-limits"), each().map(|one| Some(one.mean)))
        .numbers("bias", Some(&fine), Some("bias-limits"), each().map(|one| Some(one.bias)))
        .numbers("sd", Some(&fine), Some("consistency-limits"), each().map(|one| one.sd))
        .numbers("range", Some(&fine), Some(ranges), each().map(|one| one.mean_range))
}
