//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That the newest values of a linked column differ.
pub const NEWEST_DIFFER: Decision = Decision::new("simulation-newest-differ", "the newest values of a linked column differ", VERY_UNLIKELY);
/// That a linked column has moved away.
pub const MOVED: Decision = Decision::new("simulation-moved", "a linked column has moved away", VERY_UNLIKELY);
/// That other settings do better.
pub const BETTER: Decision = Decision::new("simulation-better", "other settings do better", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[NEWEST_DIFFER, MOVED, BETTER];
