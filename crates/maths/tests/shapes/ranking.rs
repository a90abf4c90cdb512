//! `shapes::ranking`.

use acorn_maths::cancel::{Cancel, Stopped};
use acorn_maths::shapes::family::Family;
use acorn_maths::shapes::member::Shape;
use acorn_maths::shapes::ranking::*;
use acorn_maths::sorting::Sorted;

#[test]
fn the_family_behind_the_values_comes_before_those_it_refutes() {
    let weibull = Shape::new(Family::Weibull, (3.0, 0.6), 0.0);
    let values: Vec<f64> = (0..120)
        .map(|i| {
            let below = (f64::from(i) + 0.5) / 120.0;
            weibull.quantile(below, 1.0 - below)
        })
        .collect();
    let values = Sorted::of(&values);
    let ranked = rank(&values, 0, &Cancel::default()).unwrap();
    assert_eq!(ranked[0].shape.family, Family::Weibull);
    assert!(ranked[0].p.unwrap() > 0.5);
    let exponential = ranked.iter().find(|one| one.shape.family == Family::Exponential).unwrap();
    assert!(exponential.p.unwrap() < 0.05);
    assert_eq!(ranked, rank(&values, 0, &Cancel::default()).unwrap(), "the draws are seeded");
    assert_ne!(ranked, rank(&values, 1, &Cancel::default()).unwrap(), "another seed draws others");
    let stopped = Cancel::default();
    stopped.stop();
    assert_eq!(rank(&values, 0, &stopped), Err(Stopped));
}
