//! `glossary`.

use std::collections::HashSet;

use acorn_core::glossary::*;

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
