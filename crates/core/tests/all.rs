//! Every test of the core in one program: compiled once, run side by side.

mod agreement;
mod cards;
mod cases;
mod coverage;
mod decisions;
mod edges;
mod glossary;
mod honesty;
mod narrowing;
mod properties;
mod second_ways;
mod sentences;
mod shared;
mod spoilt_specs;
mod transcripts;
mod truth;
