//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That a level stands out.
pub const STANDS_OUT: Decision = Decision::new("multi-vari-stands-out", "a level stands out", UNLIKELY);
/// That a factor does the same everywhere.
pub const SAME_EVERYWHERE: Decision = Decision::new("multi-vari-same-everywhere", "a factor does the same everywhere", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[STANDS_OUT, SAME_EVERYWHERE];
