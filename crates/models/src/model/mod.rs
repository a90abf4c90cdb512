//! Models: inputs that vary, settings, and responses that follow from both by formulas.
//!
//! A model is read from a statement ([`Model::read`]), drawn and run in blocks ([`run`]), and asked what drives it ([`shares`]),
//! what tightening pays ([`tightening`]) and which settings do better ([`search`]).

mod assembly;
mod bench;
mod correlated;
mod distribution;
mod draws;
mod linear;
mod links;
#[doc(hidden)]
pub mod random;
pub mod run;
pub mod search;
pub mod shares;
#[doc(hidden)]
pub mod slices;
pub mod stack;
mod statement;
pub mod summary;
pub mod tightening;

pub use assembly::{Drawn, Follows, Model};
pub use bench::Bench;
pub use distribution::{Distribution, VALUES_MOST, choices};
pub use draws::{Sampling, Source};
pub use links::Link;
pub use random::BLOCK;
pub use statement::{
    CORRELATIONS_MOST, Control, Correlation, Goal, Input, MANY, NAME_MOST, Range, Response, SCALES_MOST, Search, Tightening, Weighed, read,
};
