//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That a row does not fit its shape.
pub const MISFIT: Decision = Decision::new("indices-misfit", "a row does not fit its shape", UNLIKELY);
/// That a row is not steady.
pub const NOT_STEADY: Decision = Decision::new("indices-not-steady", "a row is not steady", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[MISFIT, NOT_STEADY];
