//! Every test of this crate in one program: compiled once, run side by side.

mod common;

mod affix;
mod cell;
mod columnar;
mod dates;
mod decode;
mod doubts;
mod error;
mod export;
mod export_table;
mod fixed;
mod forms;
mod fuzz;
mod gaps;
mod head;
mod import;
mod layout;
mod messy;
mod numbers;
mod signs;
mod spec_list;
mod stretches;
mod unfold;
