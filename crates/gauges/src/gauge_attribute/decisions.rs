//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That an inspector misses more than a good inspection may.
pub const MISSES: Decision = Decision::new("attribute-misses", "an inspector misses more than a good inspection may", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[MISSES];
