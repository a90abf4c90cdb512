//! Every test of this crate in one program: compiled once, run side by side.

mod collect;
mod health;
mod entry;
mod gauge {
    mod due;
}
mod periods;
mod table;
mod view;
