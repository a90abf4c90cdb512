//! `shapes::member`.

use acorn_maths::shapes::family::Family;
use acorn_maths::shapes::member::*;

#[test]
fn quantiles_undo_the_shares_of_every_family_far_into_both_tails() {
    for family in Family::ALL {
        let found = match family.plain() {
            Family::Gamma => (2.5, 1.5),
            Family::Exponential => (0.7, 1.0),
            _ => (0.7, 0.4),
        };
        let threshold = if family.has_threshold() { 3.0 } else { 0.0 };
        let shape = Shape::new(family, found, threshold);
        for tail in [1e-12, 1e-4, 0.1, 0.4] {
            let (low, high) = (shape.quantile(tail, 1.0 - tail), shape.quantile(1.0 - tail, tail));
            // A value just above a threshold holds no more digits than the threshold does.
            let slack = if family.has_threshold() { 1e-4 } else { 1e-9 };
            assert!((shape.below(low) / tail - 1.0).abs() < slack, "{family:?} below, {tail}: {}", shape.below(low));
            assert!((shape.above(high) / tail - 1.0).abs() < 1e-9, "{family:?} above, {tail}: {}", shape.above(high));
        }
        // The density is the slope of the share below.
        let (x, step) = (shape.quantile(0.3, 0.7), 1e-5);
        let slope = (shape.below(x + step) - shape.below(x - step)) / (2.0 * step);
        assert!((shape.ln_density(x).exp() / slope - 1.0).abs() < 1e-6, "{family:?}");
    }
}
