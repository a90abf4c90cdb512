//! Collecting values where they are born: what a station asks for, what it takes and refuses, when it is due, and what a gauge says.

mod alert;
mod due;
mod entry;
mod line;
mod occasion;
mod plan;

pub use alert::{Patience, Untaken, Way};
pub use due::{Calendar, Due, ShiftMissed, standing, standing_by_pieces};
pub use entry::{Beyond, Entry, Refusal};
pub use line::{LinePattern, Reading, Unread, ready_made};
pub use occasion::Happened;
pub use plan::{Asked, CollectionPlan, Counts, Every, Identifier, Measurement, Occasion, PlanProblem, Reaction, Shift};

/// So many subgroups until limits are held as they are.
pub const SUBGROUPS_ENOUGH: usize = 20;
