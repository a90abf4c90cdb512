//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That labels depend on each other.
pub const DEPENDS: Decision = Decision::new("association-depends", "labels depend on each other", UNLIKELY);
/// That a cell stands out.
pub const CELL: Decision = Decision::new("association-cell", "a cell stands out", UNLIKELY);
/// That labels depend on each other within the layers.
pub const WITHIN: Decision = Decision::new("association-within", "labels depend on each other within the layers", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[DEPENDS, CELL, WITHIN];
