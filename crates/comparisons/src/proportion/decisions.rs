//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That a share or a rate is not as claimed.
pub const NOT_CLAIMED: Decision = Decision::new("proportion-not-claimed", "a share or a rate is not as claimed", UNLIKELY);
/// That two shares or rates differ.
pub const DIFFER: Decision = Decision::new("proportion-differ", "two shares or rates differ", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[NOT_CLAIMED, DIFFER];
