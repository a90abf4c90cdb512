//! Every test of this crate in one program: compiled once, run side by side.

mod common;

mod doubts;
mod forms;
mod fuzz;
mod import;
mod messy;
mod numbers;
mod stretches;
mod affix;
mod cell;
mod columnar;
mod dates;
mod decode;
mod error;
mod export;
mod export_table;
mod fixed;
mod gaps;
mod head;
mod layout;
mod signs;
mod spec_list;
mod unfold;
