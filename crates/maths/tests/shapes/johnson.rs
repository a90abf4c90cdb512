//! `shapes::johnson`.

use acorn_maths::describe::moments;
use acorn_maths::normal;
use acorn_maths::shape::anderson_darling;
use acorn_maths::shapes::johnson::*;
use acorn_maths::sorting::Sorted;

#[test]
fn values_made_by_each_system_turn_normal_again() {
    let made = [
        Johnson { system: System::SU, gamma: -0.8, delta: 1.3, xi: 10.0, lambda: 2.0 },
        Johnson { system: System::SB, gamma: 0.6, delta: 0.9, xi: 10.0, lambda: 5.0 },
        Johnson { system: System::SL, gamma: 0.3, delta: 1.6, xi: 10.0, lambda: 1.0 },
    ];
    for system in made {
        let values: Vec<f64> = (0..300).map(|i| system.value_at(normal::quantile((f64::from(i) + 0.5) / 300.0))).collect();
        let found = Johnson::fit(&Sorted::of(&values)).unwrap();
        let scores: Vec<f64> = values.iter().map(|&x| found.score(x)).collect();
        let of = moments(&scores);
        let test = anderson_darling(&Sorted::of(&scores), of.mean.unwrap(), of.sd.unwrap()).unwrap();
        assert!(test.p > 0.9, "{:?} as {:?}: p {}", system.system, found.system, test.p);
        assert!((found.value_at(found.score(values[40])) - values[40]).abs() < 1e-9);
    }
    assert_eq!(Johnson::fit(&Sorted::of(&[1.0; 20])), None);
}
