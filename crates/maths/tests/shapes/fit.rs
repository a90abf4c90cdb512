//! `shapes::fit`.

use acorn_maths::shapes::family::Family;
use acorn_maths::shapes::fit::*;
use acorn_maths::shapes::member::Shape;
use acorn_maths::sorting::Sorted;

/// Evenly spaced quantiles of a known shape.
fn ideal(shape: Shape, n: usize) -> Vec<f64> {
    (0..n)
        .map(|i| {
            let below = (i as f64 + 0.5) / n as f64;
            shape.quantile(below, 1.0 - below)
        })
        .collect()
}

#[test]
fn each_family_is_found_again_from_its_own_quantiles() {
    for family in Family::ALL {
        let found = match family.plain() {
            Family::Gamma => (3.0, 2.0),
            Family::Exponential => (1.0, 1.0),
            _ => (1.0, 0.35),
        };
        let threshold = if family.has_threshold() { 20.0 } else { 0.0 };
        let made = Shape::new(family, found, threshold);
        let values = ideal(made, 1500);
        let found = fit(family, &Sorted::of(&values)).unwrap_or_else(|| panic!("{family:?} found nothing"));
        for p in [0.1, 0.5, 0.9] {
            let (got, want) = (found.quantile(p, 1.0 - p), made.quantile(p, 1.0 - p));
            assert!((got - want).abs() < 0.02 * (made.quantile(0.9, 0.1) - made.quantile(0.1, 0.9)), "{family:?}: {got} {want}");
        }
        // A threshold at the smallest value would be likelier still, and is not what is wanted.
        let likelier = found.ln_likelihood(&values) >= made.ln_likelihood(&values) - 0.02;
        assert!(likelier || family == Family::ExponentialThreshold, "{family:?}");
    }
}

#[test]
fn values_that_do_not_vary_or_lie_below_the_bound_have_no_fit() {
    for family in Family::ALL {
        assert_eq!(fit(family, &Sorted::of(&[])), None);
        assert_eq!(fit(family, &Sorted::of(&[2.4; 9])), None);
        if family.is_bounded() && !family.has_threshold() {
            assert_eq!(fit(family, &Sorted::of(&[-1.0, 1.0, 2.0])), None, "{family:?}");
        }
    }
}
