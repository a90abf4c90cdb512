//! Every test of this crate in one program: compiled once, run side by side.

mod changes;
mod chunks;
mod columns;
mod floor;
mod gauges;
mod images;
mod labels;
mod layout;
mod opening;
mod sequences;
mod store;
