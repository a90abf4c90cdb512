//! When the works of the demo data run.

use jiff::civil::{DateTime, date};

pub const SHIFTS: [&str; 3] = ["early", "late", "night"];

/// The first moment of the data.
pub fn start() -> DateTime {
    date(2026, 5, 4).at(6, 10, 0, 0)
}

/// A moment as the data write it.
pub fn stamp(time: DateTime) -> String {
    time.strftime("%Y-%m-%d %H:%M").to_string()
}
