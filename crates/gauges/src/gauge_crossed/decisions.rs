//! What this method claims where chance could deceive, and how often it may.

use acorn_maths::judgement::{UNLIKELY, VERY_UNLIKELY};
use acorn_study::Decision;
use acorn_study::gauge::operators::{INCONSISTENT, READS_OFF};

/// That operators read some parts differently.
pub const INTERACTION: Decision = Decision::new("gauge-interaction", "operators read some parts differently", UNLIKELY);
/// That one reading stands out.
pub const ODD_READING: Decision = Decision::new("gauge-odd-reading", "one reading stands out", VERY_UNLIKELY);

/// All of them.
pub const ALL: &[Decision] = &[INTERACTION, ODD_READING, READS_OFF, INCONSISTENT];
