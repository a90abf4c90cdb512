//! Tables as the core sees them: frames of columns, formulas over them, tables of tables, and what figures draw of them.
//!
//! Pure, as all of the core: no files, no network, no clock, no async, no global random state.

pub mod figure;
pub mod formula;
pub mod frame;
pub mod reshape;
pub mod summary;
