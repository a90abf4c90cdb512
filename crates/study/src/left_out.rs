//! Rows that a question leaves out, and why.

use serde::Deserialize;

/// Rows that are left out for one reason.
#[derive(Clone, Debug, PartialEq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct LeftOut {
    /// Stretches of row ids, ends included.
    pub rows: Vec<[i64; 2]>,
    /// Why, in words.
    pub why: String,
}

/// Whether a row is among those left out.
pub fn is_left_out(all: &[LeftOut], id: i64) -> bool {
    all.iter().any(|one| one.rows.iter().any(|[first, last]| (*first..=*last).contains(&id)))
}
