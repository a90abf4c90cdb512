//! The rules of the job and every computation of Acorn Dial.
//!
//! This crate is pure: no files, no network, no clock, no async, no global random state.
//! Data come in as a [`frame::Frame`], a question as a [`study::Spec`], and the answer leaves as a
//! [`study::Computed`], from which any [`study::View`] of an [`study::Outcome`] can be taken.

pub mod cancel;
pub mod collect;
pub mod dial;
pub mod figure;
pub mod formula;
pub mod frame;
pub mod gauge;
pub mod glossary;
pub mod health;
pub mod judgement;
pub mod methods;
pub mod model;
pub mod numeric;
pub mod problem;
pub mod reshape;
pub mod study;
pub mod summary;
