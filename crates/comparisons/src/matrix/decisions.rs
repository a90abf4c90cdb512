//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That a pair of columns goes together.
pub const TOGETHER: Decision = Decision::new("matrix-together", "a pair of columns goes together", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[TOGETHER];
