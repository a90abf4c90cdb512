//! What this method claims where chance could deceive, and how often it may.

use crate::control_chart::decisions::{EXPLAINED, NOT_STEADY};
use acorn_maths::judgement::{BEYOND_CHANCE, UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the shape does not fit.
pub const MISFIT: Decision = Decision::new("capability-misfit", "the shape does not fit", UNLIKELY);
/// That the values end at a limit.
pub const CUT_OFF: Decision = Decision::new("capability-cut-off", "the values end at a limit", VERY_UNLIKELY);
/// That more lies beyond the limits than the shape expects.
pub const SURPRISE: Decision = Decision::new("capability-surprise", "more lies beyond the limits than the shape expects", VERY_UNLIKELY);
/// That neighbours are more alike, or less, than values far apart.
pub const NEIGHBOURS: Decision =
    Decision::new("capability-neighbours", "neighbours are more alike, or less, than values far apart", BEYOND_CHANCE);

/// All of them.
pub const ALL: &[Decision] = &[MISFIT, CUT_OFF, SURPRISE, NEIGHBOURS, NOT_STEADY, EXPLAINED];
