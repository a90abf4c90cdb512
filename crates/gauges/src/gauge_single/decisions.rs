//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That the gauge is biased.
pub const BIAS: Decision = Decision::new("gauge-bias", "the gauge is biased", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[BIAS];
