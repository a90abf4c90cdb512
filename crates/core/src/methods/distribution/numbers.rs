//! What a look computes, in the shape of its contract.

use std::mem::size_of_val;

use serde::Serialize;

use super::params::Show;
use crate::figure::heap::{Bin, CurvePoint};
use crate::figure::probability::PlotPoint;
use crate::frame::Values;
use crate::methods::Numbers as MethodNumbers;
use crate::study::words::Writer;
use crate::study::{View, ViewNumbers};

/// What a look computes.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = DistributionNumbers))]
pub struct Numbers {
    /// One for each group, in order of first appearance.
    pub groups: Vec<GroupNumbers>,
    /// Smallest and largest of all values.
    pub span: [f64; 2],
    /// Width of a bar, when all groups share it.
    pub bin_width: Option<f64>,
    /// Whether all groups share one scale.
    pub same_scale: bool,
    /// Which picture is asked for.
    pub show: &'static str,
    /// How values are written.
    pub writer: Writer,
}

/// One group; null is what cannot be told: sd below two values, skewness below three, kurtosis below four, the test of
/// shape below eight, and all of these but the sd when every value is the same.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct GroupNumbers {
    /// Its label; null without a group column.
    pub label: Option<String>,
    /// Values.
    pub n: usize,
    /// Values that are missing.
    pub missing: usize,
    /// Mean.
    pub mean: Option<f64>,
    /// Sample sd.
    pub sd: Option<f64>,
    /// Smallest value.
    pub min: Option<f64>,
    /// Lower quartile, type 7.
    pub q1: Option<f64>,
    /// Median.
    pub median: Option<f64>,
    /// Upper quartile, type 7.
    pub q3: Option<f64>,
    /// Largest value.
    pub max: Option<f64>,
    /// Largest less smallest.
    pub range: Option<f64>,
    /// Bias-adjusted skewness G1.
    pub skewness: Option<f64>,
    /// Bias-adjusted excess kurtosis G2.
    pub kurtosis: Option<f64>,
    /// 95 % interval of the mean.
    pub mean_ci95: Option<[f64; 2]>,
    /// 95 % interval of the sd.
    pub sd_ci95: Option<[f64; 2]>,
    /// Anderson and Darling's statistic against a normal.
    pub ad: Option<f64>,
    /// Adjusted for the number of values.
    pub ad_star: Option<f64>,
    /// The chance of so large a statistic from a normal.
    pub ad_p: Option<f64>,
    /// Bars.
    pub bins: Vec<Bin>,
    /// The bell curve in counts a bar; empty unless asked for.
    pub curve: Vec<CurvePoint>,
    /// Whiskers and far values; the quartiles stand above.
    pub box_plot: Option<BoxNumbers>,
    /// Values one by one, thinned to 300 in the order of the rows.
    pub values: Vec<ShownValue>,
    /// The normal probability plot, thinned to 300.
    pub plot: Vec<PlotPoint>,
}

/// What a box plot needs besides the quartiles.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct BoxNumbers {
    /// 1.5 interquartile ranges below the lower quartile.
    pub low_fence: f64,
    /// 1.5 interquartile ranges above the upper quartile.
    pub high_fence: f64,
    /// The smallest value within the fences.
    pub low: f64,
    /// The largest value within the fences.
    pub high: f64,
    /// Values beyond the fences.
    pub far_count: usize,
    /// Those values, thinned to 100.
    pub far: Vec<f64>,
}

/// One value drawn by itself.
#[derive(Clone, Copy, Debug, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct ShownValue {
    /// Its place in the order of the rows, 0 to 1.
    pub place: f64,
    /// The value.
    pub value: f64,
}

impl Show {
    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            Show::Heaps => "heaps",
            Show::Boxes => "boxes",
            Show::Values => "values",
            Show::Probability => "probability",
        }
    }
}

impl ViewNumbers for Numbers {
    fn numbers(&self, _view: &View) -> MethodNumbers {
        MethodNumbers::Distribution(Box::new(self.clone()))
    }

    fn bytes(&self) -> usize {
        let of = |group: &GroupNumbers| size_of_val(&group.values[..]) + size_of_val(&group.plot[..]) + size_of_val(&group.bins[..]);
        self.groups.iter().map(of).sum()
    }

    fn point_columns(&self) -> Vec<(String, Values)> {
        let bins = || self.groups.iter().flat_map(|group| group.bins.iter().map(move |bin| (group, bin)));
        let labels: Vec<String> = self.groups.iter().map(|group| group.label.clone().unwrap_or_else(|| "all".into())).collect();
        let codes = self.groups.iter().zip(0u32..).flat_map(|(group, code)| std::iter::repeat_n(code, group.bins.len()));
        vec![
            ("group".to_owned(), Values::Label { codes: codes.collect(), labels: labels.into() }),
            ("from".to_owned(), Values::Number(bins().map(|(_, bin)| bin.from).collect())),
            ("to".to_owned(), Values::Number(bins().map(|(_, bin)| bin.to).collect())),
            ("count".to_owned(), Values::Number(bins().map(|(_, bin)| bin.count as f64).collect())),
        ]
    }
}
