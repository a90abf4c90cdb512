//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That a column goes with it.
pub const GOES_WITH: Decision = Decision::new("screening-goes-with", "a column goes with it", UNLIKELY);
/// That a label holds too many of the rows marked.
pub const LABEL: Decision = Decision::new("screening-label", "a label holds too many of the rows marked", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[GOES_WITH, LABEL];
