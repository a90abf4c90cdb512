//! Tolerance intervals beside the indices.

use serde::Serialize;

use acorn_maths::tolerance::{one_sided, ranks, two_sided};

/// Where a share of all values lies, with 95 % confidence; one-sided for one limit.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ToleranceInterval)]
pub struct Tolerance {
    /// The share of all values.
    pub share: f64,
    /// Ends for a normal; an open side is null.
    pub normal: [Option<f64>; 2],
    /// Ends whatever the shape: values of the sample.
    pub any_shape: [Option<f64>; 2],
    /// The confidence that the ends whatever the shape reach.
    pub any_shape_confidence: f64,
}

/// Shares that are told.
const SHARES: [f64; 3] = [0.95, 0.99, 0.9973];
const CONFIDENCE: f64 = 0.95;

/// Intervals of sorted values; empty below two values. `at` gives the value so many sds from the mean, unknown without a
/// normal scale; `sides` says on which sides limits stand.
pub fn intervals(sorted: &[f64], at: impl Fn(f64) -> Option<f64>, sides: [bool; 2]) -> Vec<Tolerance> {
    let n = sorted.len();
    let sides = if sides == [false, false] { [true, true] } else { sides };
    let both = sides == [true, true];
    let one = |share: f64| {
        let k = if both { two_sided(n, share, CONFIDENCE) } else { one_sided(n, share, CONFIDENCE) }?;
        let (rank, reached) = ranks(n, share, CONFIDENCE, if both { 2 } else { 1 })?;
        let side = |low: Option<f64>, high: Option<f64>| [low.filter(|_| sides[0]), high.filter(|_| sides[1])];
        Some(Tolerance {
            share,
            normal: side(at(-k), at(k)),
            any_shape: side(Some(sorted[rank - 1]), Some(sorted[n - rank])),
            any_shape_confidence: reached,
        })
    };
    SHARES.into_iter().filter_map(one).collect()
}
