//! Histograms of values: bars from edge to edge, left-closed, the last one closed.

use serde::Serialize;

use acorn_maths::describe::extent;
use acorn_maths::sorting::Sorted;

/// How wide the bars are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum BarWidth {
    /// Freedman and Diaconis, rounded.
    Auto,
    /// So many bars over the range of the values.
    Count(usize),
    /// So wide, in the unit of the measure.
    Width(f64),
}

/// How bars are wanted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bars {
    /// How wide.
    pub width: BarWidth,
    /// Where the first one begins; found from the values when absent.
    pub start: Option<f64>,
}

/// Most bars.
pub const BARS_MOST: usize = 500;

/// Bars that the values cannot have.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Unfit {
    /// The option that asks for them.
    pub option: &'static str,
    /// As given.
    pub value: f64,
    /// Smallest possible.
    pub low: f64,
    /// Largest possible.
    pub high: f64,
}

/// One bar.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = HistogramBin)]
pub struct Bin {
    /// Left edge.
    pub from: f64,
    /// Right edge; only the last bar holds values on it.
    pub to: f64,
    /// Values in it.
    pub count: usize,
}

/// A point of a curve over a histogram.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct CurvePoint {
    /// The value.
    pub value: f64,
    /// The count a bar there would have.
    pub count: f64,
}

/// Where bars begin and how wide they are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scale {
    /// Where the first bar begins, or that in widths.
    pub start: f64,
    /// How wide a bar is.
    pub width: f64,
    /// Whether edges are whole multiples of the width, counted from `start` in widths.
    pub multiples: bool,
}

/// Fewest and most bars found from the values.
const FOUND: (f64, f64) = (5.0, 60.0);

impl Scale {
    /// The bars of values; `None` when there are none.
    ///
    /// Found from the values: width 2 IQR / ∛n (Freedman and Diaconis 1981), kept between 5 and 60 bars, rounded to 1, 2
    /// or 5 of a power of ten, edges at multiples of it.
    ///
    /// # Errors
    /// [`Unfit`] when a width makes too many bars or a start lies above the smallest value.
    pub fn of(sorted: &Sorted, bars: Bars) -> Result<Option<Scale>, Unfit> {
        let (Some(&low), Some(&high)) = (sorted.first(), sorted.last()) else { return Ok(None) };
        if let Some(start) = bars.start
            && start > low
        {
            return Err(Unfit { option: "bin_start", value: start, low: f64::MIN, high: low });
        }
        let range = high - bars.start.unwrap_or(low);
        let width = match bars.width {
            BarWidth::Width(width) => {
                check_bars(range, width)?;
                width
            }
            BarWidth::Count(count) if range > 0.0 => range / count as f64,
            BarWidth::Count(_) => 1.0,
            BarWidth::Auto => automatic(sorted, range),
        };
        let exact = bars.start.or(matches!(bars.width, BarWidth::Count(_)).then_some(low));
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
        // Whatever a width does, the bars end.
        for place in 0..2 * BARS_MOST {
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

fn automatic(sorted: &Sorted, range: f64) -> f64 {
    if range == 0.0 {
        return round_step(sorted[0].abs().max(1.0) * 0.01);
    }
    let quartile = |p| sorted.quantile(p).unwrap_or(0.0);
    let wanted = 2.0 * (quartile(0.75) - quartile(0.25)) / (sorted.len() as f64).cbrt();
    round_step(wanted.clamp(range / FOUND.1, range / FOUND.0))
}

/// Bars of a round width (1, 2 or 5 times a power of ten) that cover the values, about `wanted` of them, in one pass over values
/// that need not be sorted. Missing values are left out; no values, no bars; equal values, one bar around them.
pub fn round_bins(values: &[f64], wanted: usize) -> Vec<Bin> {
    let Some([low, high]) = extent(values) else { return Vec::new() };
    // A spread below the resolution of the values themselves is none.
    let spread = (high - low).max(low.abs().max(high.abs()) * 1e-12);
    let width =
        if high > low && spread.is_finite() { round_up(spread / wanted.max(1) as f64) } else { round_up(high.abs().max(1.0) * 0.5) };
    let first = (low / width).floor();
    let count = (((high / width).floor() - first) as usize).saturating_add(1).min(BARS_MOST);
    let edge = |place: usize| (first + place as f64) * width;
    let mut bins: Vec<Bin> = (0..count).map(|i| Bin { from: edge(i), to: edge(i + 1), count: 0 }).collect();
    for value in values.iter().filter(|value| !value.is_nan()) {
        let place = ((value / width).floor() - first).max(0.0) as usize;
        bins[place.min(count - 1)].count += 1;
    }
    bins
}

/// The smallest of 1, 2, 5 times a power of ten that is at least `wanted` (which is above 0).
pub fn round_up(wanted: f64) -> f64 {
    let power = 10f64.powf(wanted.log10().floor());
    [1.0, 2.0, 5.0, 10.0].into_iter().map(|step| step * power).find(|width| *width >= wanted * (1.0 - 1e-9)).unwrap_or(10.0 * power)
}

/// The nearest of 1, 2 and 5 times a power of ten, by ratio.
pub fn round_step(width: f64) -> f64 {
    let power = 10f64.powf(width.log10().floor());
    let nearest =
        [1.0, 2.0, 5.0, 10.0].into_iter().min_by(|a, b| (width / power / a).ln().abs().total_cmp(&(width / power / b).ln().abs()));
    let digit = nearest.unwrap_or(1.0);
    // A power below one is divided by, so that 0.05 is not 0.05000000000000001.
    if power < 1.0 { digit / (1.0 / power).round() } else { digit * power }
}

/// The width of bars so many over a range fit the bound.
fn check_bars(range: f64, width: f64) -> Result<(), Unfit> {
    let least = range / BARS_MOST as f64;
    if width < least { Err(Unfit { option: "bins.width", value: width, low: least, high: f64::MAX }) } else { Ok(()) }
}
