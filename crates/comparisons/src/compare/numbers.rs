//! What a comparison consists of, in the shape of its contract.

use serde::Serialize;

use acorn_maths::equal_means::EqualMeans;
use acorn_maths::equal_variance::EqualVariance;
use acorn_maths::ranks::Kruskal;
use acorn_maths::words::ValueFormat;

/// What a comparison consists of.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareNumbers)]
pub struct Numbers {
    /// The groups, in order of first appearance.
    pub groups: Vec<Group>,
    /// The mean of all values.
    pub mean: f64,
    /// Sd within groups, pooled; null when no group has two values.
    pub sd_within: Option<f64>,
    /// The test that the data allow.
    pub test: Chosen,
    /// One-way analysis of variance.
    pub anova: Option<EqualMeans>,
    /// Welch's test.
    pub welch: Option<EqualMeans>,
    /// By ranks.
    pub kruskal: Option<Kruskal>,
    /// Whether spreads are alike.
    pub brown_forsythe: Option<EqualVariance>,
    /// The chance of departures from a normal as large as those of the values from their group's mean.
    pub normal_p: Option<f64>,
    /// Two groups: both t tests.
    pub two_sample: Option<TwoSample>,
    /// Pairs of three groups or more, by Tukey and Kramer.
    pub tukey: Vec<Pair>,
    /// Pairs by Games and Howell.
    pub games_howell: Vec<Pair>,
    /// Each group against the mean of all; null when sizes differ.
    pub anom: Option<Vec<Anom>>,
    /// Differences row by row.
    pub paired: Option<OneMean>,
    /// One mean against a value.
    pub one_sample: Option<OneMean>,
    /// What one mean is held against.
    pub against: Option<f64>,
    /// Values needed in each group to find a difference.
    pub needed: Option<Needed>,
    /// Rows left out.
    pub missing: usize,
    /// The upper less the lower specification limit.
    #[serde(skip)]
    pub tolerance: Option<f64>,
    /// How values are written.
    pub writer: ValueFormat,
}

/// The test that the data allow.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareChosen)]
#[serde(rename_all = "kebab-case")]
pub enum Chosen {
    /// Equal spreads.
    Anova,
    /// Unequal spreads.
    Welch,
    /// Few values far from normal.
    Kruskal,
    /// One mean.
    T,
    /// None: too few values, or none that varies.
    None,
}

/// A group.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareGroup)]
pub struct Group {
    /// Its label.
    pub label: String,
    /// Values.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// Their sd; null below two.
    pub sd: Option<f64>,
    /// 95 % interval of the mean.
    pub ci95: Option<[f64; 2]>,
    /// Smallest, quartiles and largest.
    pub five: [f64; 5],
    /// The values, when they are few enough to be drawn one by one.
    pub values: Vec<f64>,
}

/// Two groups.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareTwoSample)]
pub struct TwoSample {
    /// The first mean less the second.
    pub difference: f64,
    /// With one spread for both.
    pub pooled: TTest,
    /// With a spread for each; null when one has none.
    pub welch: Option<TTest>,
}

/// A t test.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareTTest)]
pub struct TTest {
    /// The statistic.
    pub t: f64,
    /// Degrees of freedom.
    pub df: f64,
    /// Its chance, two-sided.
    pub p: f64,
    /// 95 % interval of the difference.
    pub ci95: [f64; 2],
}

/// One mean against a value.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareOneMean)]
pub struct OneMean {
    /// Values.
    pub n: usize,
    /// Their mean.
    pub mean: f64,
    /// Their sd.
    pub sd: f64,
    /// The statistic.
    pub t: f64,
    /// Degrees of freedom.
    pub df: f64,
    /// Its chance, two-sided.
    pub p: f64,
    /// 95 % interval of the mean.
    pub ci95: [f64; 2],
}

/// Two of the groups; chances and intervals hold for all pairs together.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ComparePair)]
pub struct Pair {
    /// The first.
    pub a: String,
    /// The second.
    pub b: String,
    /// The mean of the first less that of the second.
    pub difference: f64,
    /// Its 95 % interval.
    pub ci95: [f64; 2],
    /// Degrees of freedom.
    pub df: f64,
    /// The chance of so large a difference.
    pub p: f64,
}

/// A group against the mean of all.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareAnom)]
pub struct Anom {
    /// Its label.
    pub label: String,
    /// Its mean.
    pub mean: f64,
    /// Lower decision limit.
    pub lcl: f64,
    /// Upper decision limit.
    pub ucl: f64,
    /// Whether it lies outside.
    pub outside: bool,
}

/// How many values would find a difference.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = CompareNeeded)]
pub struct Needed {
    /// The difference.
    pub delta: f64,
    /// Values in each group.
    pub each: usize,
}
