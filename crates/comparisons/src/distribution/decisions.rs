//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the centres of groups differ.
pub const DIFFER: Decision = Decision::new("distribution-differ", "the centres of groups differ", UNLIKELY);
/// That the spreads of groups differ.
pub const SPREADS_DIFFER: Decision = Decision::new("distribution-spreads-differ", "the spreads of groups differ", UNLIKELY);
/// That the values are not normal.
pub const NOT_NORMAL: Decision = Decision::new("distribution-not-normal", "the values are not normal", UNLIKELY);
/// That more values lie far out than a normal has.
pub const FAR: Decision = Decision::new("distribution-far-values", "more values lie far out than a normal has", UNLIKELY);
/// That the values are two groups or end at a limit.
pub const STRUCTURE: Decision = Decision::new("distribution-structure", "the values are two groups or end at a limit", VERY_UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[DIFFER, SPREADS_DIFFER, NOT_NORMAL, FAR, STRUCTURE];
