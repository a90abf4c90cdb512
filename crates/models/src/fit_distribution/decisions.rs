//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::UNLIKELY;
use acorn_study::Decision;

/// That no distribution fits.
pub const NONE_FITS: Decision = Decision::new("fit-none", "no distribution fits", UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[NONE_FITS];
