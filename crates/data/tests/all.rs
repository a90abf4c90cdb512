//! Every test of this crate in one program: compiled once, run side by side.

mod formulas;
mod reshape;
mod table_formulas;
mod figure {
    mod histogram;
}
mod frame {
    mod coded;
    mod find;
    mod groups;
    mod order;
    mod rules;
}
