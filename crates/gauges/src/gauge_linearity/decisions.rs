//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That the bias changes over the range, or there is one.
pub const NOT_RIGHT: Decision = Decision::new("linearity-not-right", "the bias changes over the range, or there is one", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[NOT_RIGHT];
