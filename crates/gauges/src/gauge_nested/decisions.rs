//! What this method claims where chance could deceive, and how often it may.

use acorn_study::Decision;
use acorn_study::gauge::operators::{INCONSISTENT, READS_OFF};

/// All of them.
pub const ALL: &[Decision] = &[READS_OFF, INCONSISTENT];
