//! Every test of this crate in one program: compiled once, run side by side.

mod collect;
mod entry;
mod health;
mod gauge {
    mod due;
}
mod periods;
mod statement;
mod table;
mod view;
