//! What a look computes, in the shape of its contract.

use std::mem::size_of_val;

use serde::Serialize;

use super::params::Show;
use super::structure::Structure;
use acorn_data::figure::histogram::{Bin, CurvePoint};
use acorn_data::figure::probability::PlotPoint;
use acorn_maths::equal_means::EqualMeans;
use acorn_maths::equal_variance::EqualVariance;
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, StoredAnswer, Table, Term, ToNumbers, View};

/// What a look computes.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
#[schema(as = DistributionNumbers)]
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
    pub show: Show,
    /// Whether the groups have one mean; null with one group, or too few values.
    pub equal_means: Option<EqualMeans>,
    /// Whether the groups spread alike; null with one group, or too few values.
    pub equal_spread: Option<EqualVariance>,
    /// Different values, when they are so few that the gauge reads coarsely.
    pub coarse: Option<usize>,
    /// What is to be said before the shape, of one group.
    #[serde(skip)]
    pub structure: Option<Structure>,
    /// How values are written.
    pub writer: ValueFormat,
}

/// One group; null is what cannot be told: sd below two values, skewness below three, kurtosis below four, the test of
/// shape below eight, and all of these but the sd when every value is the same.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
    /// Whether that makes a difference: not among very many values with a small departure.
    pub misfits: bool,
    /// Bars.
    pub bins: Vec<Bin>,
    /// The normal curve in counts a bar; empty unless asked for.
    pub curve: Vec<CurvePoint>,
    /// Whiskers and far values; the quartiles stand above.
    pub box_plot: Option<BoxNumbers>,
    /// Values one by one, thinned to 300 in the order of the rows.
    pub values: Vec<ShownValue>,
    /// The normal probability plot, thinned to 300.
    pub plot: Vec<PlotPoint>,
}

/// What a box plot needs besides the quartiles.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
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
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct ShownValue {
    /// Its place in the order of the rows, 0 to 1.
    pub place: f64,
    /// The value.
    pub value: f64,
}

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        let of = |group: &GroupNumbers| {
            let listed = size_of_val(&group.values[..]) + size_of_val(&group.plot[..]) + size_of_val(&group.bins[..]);
            size_of::<GroupNumbers>() + listed + size_of_val(&group.curve[..]) + group.label.as_ref().map_or(0, String::len)
        };
        self.groups.iter().map(of).sum()
    }

    fn brief(&self) -> Vec<Brief> {
        let [only] = &self.groups[..] else { return vec![Brief { term: "groups", words: grouped(self.groups.len()) }] };
        let computed = |term, value: Option<f64>| value.map(|value| Brief { term, words: self.writer.computed(value) });
        let known = [computed("mean", only.mean), computed("sd", only.sd), computed("median", only.median)];
        known.into_iter().flatten().chain([Brief { term: "values", words: grouped(only.n) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let names: Vec<String> = self.groups.iter().map(|group| group.label.clone().unwrap_or_else(|| "all values".to_owned())).collect();
        let heads: Vec<&str> = std::iter::once("").chain(names.iter().map(String::as_str)).collect();
        let (fine, three, whole) = (self.writer.finer(), ValueFormat::fixed(3), ValueFormat::whole());
        let term = |words: &str, format: &ValueFormat, formula, get: &dyn Fn(&GroupNumbers) -> Option<f64>| {
            Term::new(words, format, formula, self.groups.iter().map(get))
        };
        let terms = vec![
            term("values", &whole, "mean-sd", &|g| Some(g.n as f64)),
            term("missing", &whole, "mean-sd", &|g| Some(g.missing as f64)),
            term("mean", &fine, "mean-sd", &|g| g.mean),
            term("its 95 % interval from", &fine, "intervals", &|g| g.mean_ci95.map(|ci| ci[0])),
            term("to", &fine, "intervals", &|g| g.mean_ci95.map(|ci| ci[1])),
            term("sd", &fine, "mean-sd", &|g| g.sd),
            term("its 95 % interval from", &fine, "intervals", &|g| g.sd_ci95.map(|ci| ci[0])),
            term("to", &fine, "intervals", &|g| g.sd_ci95.map(|ci| ci[1])),
            term("smallest", &fine, "quartiles", &|g| g.min),
            term("lower quartile", &fine, "quartiles", &|g| g.q1),
            term("median", &fine, "quartiles", &|g| g.median),
            term("upper quartile", &fine, "quartiles", &|g| g.q3),
            term("largest", &fine, "quartiles", &|g| g.max),
            term("range", &fine, "quartiles", &|g| g.range),
            term("skewness", &three, "skewness", &|g| g.skewness),
            term("excess kurtosis", &three, "skewness", &|g| g.kurtosis),
            term("A², adjusted", &three, "anderson-darling", &|g| g.ad_star),
            term("p of a normal", &three, "anderson-darling", &|g| g.ad_p),
        ];
        let mut tables = vec![Table::of_terms("groups", "Values", &heads, terms)];
        let tests = [
            self.equal_means.map(|test| ("one centre for all", "equal-means", test.f, test.df1, test.df2, test.p)),
            self.equal_spread.map(|test| ("one spread for all", "equal-spread", test.f, test.df1, test.df2, test.p)),
        ];
        let tested = tests
            .into_iter()
            .flatten()
            .map(|(words, formula, f, df1, df2, p)| Term::new(words, &three, formula, [f, df1, df2, p].map(Some)));
        let tested = Table::of_terms("tests", "Group against group", &["", "F", "df", "df of the spread", "p"], tested.collect());
        tables.extend(Some(tested).filter(|table| table.rows() > 0));
        tables
    }

    fn points(&self, view: &View) -> Table {
        let bins = || self.groups.iter().flat_map(|group| group.bins.iter().map(move |bin| (group, bin)));
        let edge = self.writer.finer();
        let name = |group: &GroupNumbers| group.label.clone().unwrap_or_else(|| "all".to_owned());
        Table::new("points", "Bars")
            .texts("group", bins().map(|(group, _)| Some(name(group))))
            .numbers("from", Some(&edge), Some("bars"), bins().map(|(_, bin)| Some(bin.from)))
            .numbers("to", Some(&edge), Some("bars"), bins().map(|(_, bin)| Some(bin.to)))
            .wholes("count", Some("bars"), bins().map(|(_, bin)| bin.count))
            .numbers(
                "share",
                Some(&ValueFormat::percent(1)),
                Some("bars"),
                bins().map(|(group, bin)| Some(bin.count as f64 / group.n.max(1) as f64)),
            )
            .in_view(view)
    }
}
