//! Parts with their readings, as figures take them.

use serde::Serialize;

/// A part with its readings.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugePart)]
pub struct Part {
    /// The name.
    pub label: String,
    /// Mean of all its readings.
    pub mean: f64,
    /// Readings by operator, none of one who has not read it; of very many the smallest, the mean and the largest.
    pub readings: Vec<Vec<f64>>,
}

/// More readings than this are sent by their smallest, mean and largest.
pub const DRAWN_MOST: usize = 4000;

/// The readings of a cell as they are sent: all, or of `many` the smallest, the mean and the largest.
pub fn drawn(cell: &[f64], mean: f64, many: bool) -> Vec<f64> {
    if !many || cell.is_empty() {
        return cell.to_vec();
    }
    vec![cell.iter().copied().fold(f64::INFINITY, f64::min), mean, cell.iter().copied().fold(f64::NEG_INFINITY, f64::max)]
}
