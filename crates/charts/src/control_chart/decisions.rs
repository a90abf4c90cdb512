//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{BEYOND_CHANCE, UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the process is not steady.
pub const NOT_STEADY: Decision = Decision::new("chart-not-steady", "the process is not steady", UNLIKELY);
/// That the order is not random.
pub const NOT_RANDOM: Decision = Decision::new("chart-not-random", "the order is not random", UNLIKELY);
/// That one cause explains the chart.
pub const EXPLAINED: Decision = Decision::new("chart-explained", "one cause explains the chart", BEYOND_CHANCE);
/// That the limits no longer describe the process.
pub const STALE: Decision = Decision::new("chart-limits-stale", "the limits no longer describe the process", BEYOND_CHANCE);
/// That the mean moved between phases.
pub const MEAN_MOVED: Decision = Decision::new("chart-mean-moved", "the mean moved between phases", UNLIKELY);
/// That the spread changed between phases.
pub const SPREAD_CHANGED: Decision = Decision::new("chart-spread-changed", "the spread changed between phases", UNLIKELY);
/// That the spreads of parts differ.
pub const PARTS_UNLIKE: Decision = Decision::new("chart-parts-unlike", "the spreads of parts differ", UNLIKELY);
/// That neighbours are alike or opposed.
pub const NEIGHBOURS: Decision = Decision::new("chart-neighbours", "neighbours are alike or opposed", VERY_UNLIKELY);
/// That counts scatter unlike counts: more, or less, each at 1 %.
pub const SCATTER: Decision = Decision::new("chart-scatter", "counts scatter unlike counts", 2.0 * VERY_UNLIKELY);
/// That events come in clusters or with regularity.
pub const CLUSTERED: Decision = Decision::new("chart-events-clustered", "events come in clusters or with regularity", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] =
    &[NOT_STEADY, NOT_RANDOM, EXPLAINED, STALE, MEAN_MOVED, SPREAD_CHANGED, PARTS_UNLIKE, NEIGHBOURS, SCATTER, CLUSTERED];
