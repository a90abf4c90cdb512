//! A stretch of the points and how many of them to send. Numbers never depend on it.

use serde::Deserialize;

/// Which points of a computed study to show.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct View {
    /// First point number; 0 when absent.
    pub first: Option<usize>,
    /// Last point number, included; the last when absent.
    pub last: Option<usize>,
    /// How many buckets to thin the stretch to; all points when absent.
    pub points: Option<usize>,
}

impl View {
    /// All points.
    pub const ALL: View = View { first: None, last: None, points: None };

    /// The stretch shown of `n` points, as a half-open range, and the width of a bucket.
    pub fn stretch(&self, n: usize) -> (std::ops::Range<usize>, usize) {
        let end = self.last.map_or(n, |last| last.saturating_add(1)).min(n);
        let start = self.first.unwrap_or(0).min(end);
        let wanted = self.points.unwrap_or(usize::MAX).max(1);
        (start..end, (end - start).div_ceil(wanted).max(1))
    }
}

/// The point numbers to send of a stretch: all of them, or of each bucket the first, the last, the
/// smallest and the largest, so that a thinned line looks as the full one does.
pub fn kept_points(values: &[f64], stretch: std::ops::Range<usize>, bucket: usize) -> Vec<usize> {
    if bucket <= 2 {
        return stretch.collect();
    }
    let mut kept = Vec::new();
    for start in stretch.clone().step_by(bucket) {
        let end = (start + bucket).min(stretch.end);
        let [lowest, highest] = extremes(&values[start..end]);
        let mut four = [Some(0), lowest, highest, Some(end - 1 - start)].into_iter().flatten().map(|i| start + i).collect::<Vec<_>>();
        four.sort_unstable();
        four.dedup();
        kept.append(&mut four);
    }
    kept
}

/// The places of the smallest and the largest value; comparisons pass over NaN.
fn extremes(values: &[f64]) -> [Option<usize>; 2] {
    let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
    let (mut lowest, mut highest) = (None, None);
    for (i, &value) in values.iter().enumerate() {
        if value < low {
            (low, lowest) = (value, Some(i));
        }
        if value > high {
            (high, highest) = (value, Some(i));
        }
    }
    [lowest, highest]
}
