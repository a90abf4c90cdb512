//! What this method claims where chance could deceive, and how often it may.

use crate::control_chart::decisions::{EXPLAINED, NOT_STEADY};
use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the values are not normal.
pub const NOT_NORMAL: Decision = Decision::new("sigma-level-not-normal", "the values are not normal", UNLIKELY);
/// That subgroups scatter more than counting explains.
pub const SCATTER: Decision = Decision::new("sigma-level-scatter", "subgroups scatter more than counting explains", VERY_UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[NOT_NORMAL, SCATTER, NOT_STEADY, EXPLAINED];
