//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the groups differ.
pub const DIFFER: Decision = Decision::new("compare-differ", "the groups differ", UNLIKELY);
/// That pairs of groups differ.
pub const PAIRS_DIFFER: Decision = Decision::new("compare-pairs-differ", "pairs of groups differ", UNLIKELY);
/// That groups lie outside the decision limits.
pub const OUTSIDE: Decision = Decision::new("compare-outside-limits", "groups lie outside the decision limits", UNLIKELY);
/// That the spreads differ.
pub const SPREADS_DIFFER: Decision = Decision::new("compare-spreads-differ", "the spreads differ", UNLIKELY);
/// That spreads differ where means do not.
pub const SPREADS_ALONE: Decision = Decision::new("compare-spreads-alone", "spreads differ where means do not", VERY_UNLIKELY);
/// That a mean, or a mean difference of pairs, is not the value compared with.
pub const MEAN_DIFFERS: Decision =
    Decision::new("compare-mean-differs", "a mean, or a mean difference of pairs, is not the value compared with", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[DIFFER, PAIRS_DIFFER, OUTSIDE, SPREADS_DIFFER, SPREADS_ALONE, MEAN_DIFFERS];
