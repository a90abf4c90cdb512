//! The rules of the job and every computation of Acorn Dial: the register of its methods, and the terms that they use.
//!
//! The core is pure: no files, no network, no clock, no async, no global random state.
//! Data come in as a [`Frame`](acorn_data::frame::Frame), a question as a [`Spec`](acorn_study::Spec), and the answer leaves as a
//! [`Computed`](methods::Computed), from which any [`View`](acorn_study::View) of an [`Outcome`](methods::Outcome) can be taken.

pub mod glossary;
pub mod methods;
