//! What ranking computes, in the shape of its contract.

use std::collections::BTreeMap;

use serde::Serialize;

use acorn_maths::words::ValueFormat;

/// What ranking computes.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoNumbers)]
pub struct Numbers {
    /// All together.
    pub overall: Ranking,
    /// Each group by itself, in order of first appearance; empty without groups.
    pub groups: Vec<Ranking>,
    /// Whether each row is one defect.
    pub from_log: bool,
    /// Whether counts are weighed.
    pub weighted: bool,
    /// Of weighed counts: the counts themselves, in the rows of the whole.
    pub unweighed: Option<Unweighed>,
    /// What ranking would show if all kinds were alike, in the rows of the whole; absent for weighed counts and one kind.
    pub alike: Option<Vec<f64>>,
    /// Names that look like one, the second the more frequent.
    pub same_names: Vec<[String; 2]>,
    /// Kinds that have several names, each with all of them, itself first.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub merged: BTreeMap<String, Vec<String>>,
    /// Before and after; absent when nothing is compared.
    pub change: Option<Change>,
    /// Rows that count.
    pub rows: usize,
    /// Rows without a kind, a count or a weight.
    pub missing: usize,
    /// How counts are written.
    pub writer: ValueFormat,
}

/// Ranked kinds.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoRanking)]
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
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
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
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoOther)]
pub struct Other {
    /// How many kinds.
    pub categories: usize,
    /// Their counts together.
    pub count: f64,
    /// Their share.
    pub share: Option<f64>,
}

/// Counts beside what they weigh.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoUnweighed)]
pub struct Unweighed {
    /// Counts of the kinds that lead by weight, in their order, then of all others.
    pub aligned: Vec<f64>,
    /// All counts.
    pub total: f64,
    /// The kind that leads in number.
    pub leader: String,
    /// Its share of the number.
    pub leader_share: Option<f64>,
}

/// What became of each kind.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoChange)]
pub struct Change {
    /// What before and after are called.
    pub labels: [String; 2],
    /// Defects in each.
    pub totals: [f64; 2],
    /// How many were inspected in each; absent when that is not known.
    pub inspected: Option<[f64; 2]>,
    /// The chance of totals as unlike; absent without the number inspected.
    pub total_p: Option<f64>,
    /// The kinds, the largest first.
    pub kinds: Vec<KindChange>,
    /// Rows that are in neither.
    pub neither: usize,
}

/// What became of a kind.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = ParetoKindChange)]
pub struct KindChange {
    /// Its name.
    pub category: String,
    /// Its count before.
    pub before: f64,
    /// Its count after.
    pub after: f64,
    /// Per piece inspected, or as a share of all defects, before.
    pub rate_before: Option<f64>,
    /// The same after.
    pub rate_after: Option<f64>,
    /// The chance of counts as unlike; null for counts that are not whole.
    pub p: Option<f64>,
    /// The same, adjusted for the number of kinds.
    pub p_adjusted: Option<f64>,
    /// 1 for more, −1 for fewer, 0 when chance explains it.
    pub changed: i8,
}
