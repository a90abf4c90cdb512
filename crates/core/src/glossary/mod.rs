//! The terms that stand in statements, verdicts, notes and tables, each with its meaning in two plain lines, its formula and
//! its source. Terms of several methods stand here; those of one method alone stand on its card.

mod general;
mod shapes;

use crate::methods::cards;
use acorn_study::Entry;

/// All terms: those of several methods, then those of each.
pub fn terms() -> impl Iterator<Item = &'static Entry> {
    general::TERMS.iter().chain(shapes::TERMS).chain(cards().flat_map(|card| card.terms))
}
