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

#[cfg(test)]
mod tests {
    use std::collections::HashSet;

    use super::*;

    #[test]
    fn terms_are_told_once_in_two_lines_with_a_source() {
        let (mut names, mut forms) = (HashSet::new(), HashSet::new());
        for term in terms() {
            assert!(names.insert(term.name), "{} is told twice", term.name);
            assert!((30..=230).contains(&term.meaning.chars().count()) && term.meaning.ends_with('.'), "{}: {}", term.name, term.meaning);
            assert!(!term.source.is_empty(), "{}", term.name);
            assert!(term.forms.len() + term.heads.len() > 0, "{} stands nowhere", term.name);
            for form in term.forms.iter().chain(term.heads) {
                assert!(forms.insert(*form), "“{form}” means {} and something else", term.name);
            }
        }
    }
}
