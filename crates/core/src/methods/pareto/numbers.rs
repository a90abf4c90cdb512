//! What ranking computes, in the shape of its contract.

use serde::Serialize;

use crate::study::words::ValueFormat;

/// What ranking computes.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ParetoNumbers))]
pub struct Numbers {
    /// All together.
    pub overall: Ranking,
    /// Each group by itself, in order of first appearance; empty without groups.
    pub groups: Vec<Ranking>,
    /// Whether each row is one defect.
    pub from_log: bool,
    /// Whether counts are weighed.
    pub weighted: bool,
    /// Rows that count.
    pub rows: usize,
    /// Rows without a kind, a count or a weight.
    pub missing: usize,
    /// How counts are written.
    pub writer: ValueFormat,
}

/// Ranked kinds.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ParetoRanking))]
pub struct Ranking {
    /// The group; empty for all together.
    pub label: String,
    /// All counts, weighed.
    pub total: f64,
    /// Kinds, before folding.
    pub kinds: usize,
    /// Kinds needed for 80 %.
    pub vital: usize,
    /// Share of the leading fifth of the kinds.
    pub top20_share: Option<f64>,
    /// Gini's index.
    pub gini: Option<f64>,
    /// The chance that kinds that are all alike differ as much; null for one kind and for weighed counts.
    pub even_p: Option<f64>,
    /// Whether the first kind leads the second by more than chance.
    pub led: bool,
    /// The kinds that stand by themselves, the largest first.
    pub bars: Vec<ParetoBar>,
    /// The rest as one; null when nothing is folded.
    pub other: Option<Other>,
    /// Counts of the overall leading kinds in their order, then of all others, for groups side by side.
    pub aligned: Vec<f64>,
}

/// A kind.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct ParetoBar {
    /// Its name.
    pub category: String,
    /// Its count, weighed.
    pub count: f64,
    /// Its share of the total; null when that is 0.
    pub share: Option<f64>,
    /// Its share with all before it.
    pub cumulative: Option<f64>,
}

/// What is folded.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ParetoOther))]
pub struct Other {
    /// How many kinds.
    pub categories: usize,
    /// Their counts together.
    pub count: f64,
    /// Their share.
    pub share: Option<f64>,
}
