//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;

/// That two columns go together.
pub const TOGETHER: Decision = Decision::new("relation-together", "two columns go together", UNLIKELY);
/// That they go together within groups.
pub const WITHIN: Decision = Decision::new("relation-within", "they go together within groups", UNLIKELY);
/// That a curve follows them better than a line.
pub const BENT: Decision = Decision::new("relation-curve", "a curve follows them better than a line", VERY_UNLIKELY);
/// That one row makes the fit.
pub const MAKES_FIT: Decision = Decision::new("relation-row-makes-fit", "one row makes the fit", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[TOGETHER, WITHIN, BENT, MAKES_FIT];
