//! Collecting values where they are born: what a station asks for, what it takes and refuses, when it is due, and what a gauge says.

mod due;
mod entry;
mod line;
mod plan;

pub use due::{Due, standing};
pub use entry::{Beyond, Entry, Refusal};
pub use line::{LinePattern, Reading, Unread, ready_made};
pub use plan::{Asked, CollectionPlan, Counts, Every, Identifier, Measurement, Occasion, PlanProblem, Reaction};

/// So many subgroups until limits are held as they are.
pub const SUBGROUPS_ENOUGH: usize = 20;
