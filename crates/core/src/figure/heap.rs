//! Heaps of values: bars from edge to edge, left-closed, the last one closed.

use serde::{Deserialize, Serialize};

use crate::numeric::shape::quantile_sorted;
use crate::study::{Options, StudyError, in_range};

/// How wide the bars are.
#[derive(Clone, Copy, Debug, PartialEq, Deserialize)]
#[serde(untagged)]
pub enum BinChoice {
    /// So many bars over the range of the values.
    Count {
        /// How many.
        count: usize,
    },
    /// Bars so wide.
    Width {
        /// In the unit of the measure.
        width: f64,
    },
    /// Found from the values.
    Auto(Auto),
}

/// Found from the values.
#[derive(Clone, Copy, Debug, Default, PartialEq, Deserialize)]
#[serde(rename_all = "kebab-case")]
pub enum Auto {
    /// Freedman and Diaconis, rounded.
    #[default]
    Auto,
}

/// How bars are wanted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bars {
    /// How wide.
    pub choice: BinChoice,
    /// Where the first one begins; found from the values when absent.
    pub start: Option<f64>,
}

/// Most bars.
const BARS_MOST: usize = 500;

impl Bars {
    /// Reads the options `bins` and `bin_start`.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`], [`StudyError::BadOption`].
    pub fn take(options: &mut Options) -> Result<Bars, StudyError> {
        let choice = options.take("bins")?.unwrap_or(BinChoice::Auto(Auto::Auto));
        let start = options.take("bin_start")?;
        match choice {
            BinChoice::Count { count } => in_range("bins.count", count as f64, 1.0, BARS_MOST as f64)?,
            BinChoice::Width { width } => in_range("bins.width", width, f64::MIN_POSITIVE, f64::MAX)?,
            BinChoice::Auto(_) => 0.0,
        };
        if let Some(start) = start {
            in_range("bin_start", start, f64::MIN, f64::MAX)?;
        }
        Ok(Bars { choice, start })
    }
}

/// One bar.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = HeapBin))]
pub struct Bin {
    /// Left edge.
    pub from: f64,
    /// Right edge; only the last bar holds values on it.
    pub to: f64,
    /// Values in it.
    pub count: usize,
}

/// A point of a curve over a heap.
#[derive(Clone, Copy, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct CurvePoint {
    /// The value.
    pub value: f64,
    /// The count a bar there would have.
    pub count: f64,
}

/// Where bars begin and how wide they are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scale {
    start: f64,
    width: f64,
    /// Whether edges are whole multiples of the width, counted from `start` in widths.
    multiples: bool,
}

/// Fewest and most bars found from the values.
const FOUND: (f64, f64) = (5.0, 60.0);

impl Scale {
    /// The bars of values, sorted and without NaN; `None` when there are none.
    ///
    /// Found from the values: width 2 IQR / ∛n (Freedman and Diaconis 1981), kept between 5 and 60 bars, rounded to 1, 2
    /// or 5 of a power of ten, edges at multiples of it.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`] when a width makes too many bars or a start lies above the smallest value.
    pub fn of(sorted: &[f64], bars: Bars) -> Result<Option<Scale>, StudyError> {
        let (Some(&low), Some(&high)) = (sorted.first(), sorted.last()) else { return Ok(None) };
        if let Some(start) = bars.start
            && start > low
        {
            return Err(StudyError::OutOfRange { option: "bin_start".into(), value: start, low: f64::MIN, high: low });
        }
        let range = high - bars.start.unwrap_or(low);
        let width = match bars.choice {
            BinChoice::Width { width } => {
                check_bars(range, width)?;
                width
            }
            BinChoice::Count { count } if range > 0.0 => range / count as f64,
            BinChoice::Count { .. } => 1.0,
            BinChoice::Auto(_) => automatic(sorted, range),
        };
        let exact = bars.start.or(matches!(bars.choice, BinChoice::Count { .. }).then_some(low));
        Ok(Some(match exact {
            Some(start) => Scale { start, width, multiples: false },
            None => Scale { start: (low / width + 1e-9).floor(), width, multiples: true },
        }))
    }

    /// The width of a bar.
    pub fn width(&self) -> f64 {
        self.width
    }

    fn edge(&self, place: usize) -> f64 {
        if self.multiples { (self.start + place as f64) * self.width } else { self.start + place as f64 * self.width }
    }

    /// The bars up to a largest value, filled with sorted values: the fewest that reach it.
    pub fn fill(&self, sorted: &[f64], high: f64) -> Vec<Bin> {
        let mut bins = Vec::new();
        let mut done = 0;
        for place in 0.. {
            let (from, to) = (self.edge(place), self.edge(place + 1));
            // A value on an edge belongs above it, also where rounding put the edge a hair higher.
            let slack = 1e-9 * self.width;
            let is_last = to >= high - slack || to <= from;
            let upto = if is_last { sorted.len() } else { done + sorted[done..].partition_point(|value| *value < to - slack) };
            bins.push(Bin { from, to, count: upto - done });
            done = upto;
            if is_last {
                break;
            }
        }
        bins
    }
}

fn automatic(sorted: &[f64], range: f64) -> f64 {
    if range == 0.0 {
        return round_step(sorted[0].abs().max(1.0) * 0.01);
    }
    let quartile = |p| quantile_sorted(sorted, p).unwrap_or(0.0);
    let wanted = 2.0 * (quartile(0.75) - quartile(0.25)) / (sorted.len() as f64).cbrt();
    round_step(wanted.clamp(range / FOUND.1, range / FOUND.0))
}

/// The nearest of 1, 2 and 5 times a power of ten, by ratio.
fn round_step(width: f64) -> f64 {
    let power = 10f64.powf(width.log10().floor());
    let nearest =
        [1.0, 2.0, 5.0, 10.0].into_iter().min_by(|a, b| (width / power / a).ln().abs().total_cmp(&(width / power / b).ln().abs()));
    let digit = nearest.unwrap_or(1.0);
    // A power below one is divided by, so that 0.05 is not 0.05000000000000001.
    if power < 1.0 { digit / (1.0 / power).round() } else { digit * power }
}

/// The width of bars so many over a range fit the bound.
fn check_bars(range: f64, width: f64) -> Result<(), StudyError> {
    let least = range / BARS_MOST as f64;
    if width < least {
        Err(StudyError::OutOfRange { option: "bins.width".into(), value: width, low: least, high: f64::MAX })
    } else {
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn steps_are_round_and_edges_exact() {
        assert_eq!(round_step(0.049), 0.05);
        assert_eq!(round_step(0.0016), 0.002);
        assert_eq!(round_step(340.0), 500.0);
        let scale = Scale { start: 47.0, width: 0.05, multiples: true };
        let bins = scale.fill(&[2.35, 2.4, 2.45], 2.45);
        assert_eq!(bins.iter().map(|bin| bin.count).collect::<Vec<_>>(), [1, 2]);
        assert_eq!((bins[0].from, bins[1].to), (47.0 * 0.05, 49.0 * 0.05));
    }
}
