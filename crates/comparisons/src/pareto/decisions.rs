//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That kinds are not all alike.
pub const UNLIKE: Decision = Decision::new("pareto-unlike", "kinds are not all alike", UNLIKELY);
/// That the first kind is ahead of the second.
pub const LEADS: Decision = Decision::new("pareto-leads", "the first kind is ahead of the second", UNLIKELY);
/// That a kind changed.
pub const CHANGED: Decision = Decision::new("pareto-changed", "a kind changed", UNLIKELY);
/// That defects in all changed.
pub const TOTAL_CHANGED: Decision = Decision::new("pareto-total-changed", "defects in all changed", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[UNLIKE, LEADS, CHANGED, TOTAL_CHANGED];
