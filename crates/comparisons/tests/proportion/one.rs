//! `proportion::one`.

use acorn_comparisons::proportion::numbers::Outcome;
use acorn_comparisons::proportion::one::*;
use acorn_comparisons::proportion::sample::Alternative;
use acorn_maths::distributions::{Binomial, Poisson};

#[test]
fn drawn_outcomes_are_few_and_hold_the_one_seen() {
    let few = |law: &dyn Fn() -> Vec<Outcome>, x: f64| {
        let drawn = law();
        assert!(drawn.len() <= DRAWN_MOST + 2 && drawn.iter().any(|one| one.count == x), "{x} {}", drawn.len());
        assert!(drawn.iter().all(|one| (0.0..=1.0).contains(&one.chance)));
    };
    for (x, n, p) in [(0.0, 5.0, 0.9), (3.0, 1e6, 0.5), (1e9, 2e9, 0.5), (7.0, 7.0, 0.0)] {
        few(&|| outcomes(&Binomial { n, p }, x, Alternative::NotEqual), x);
    }
    for (x, mean) in [(0.0, 3.0), (40.0, 3.0), (1e9, 1e9), (0.0, 1e-9)] {
        few(&|| outcomes(&Poisson { mean }, x, Alternative::NotEqual), x);
    }
}
