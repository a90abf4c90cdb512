//! `distributions`.

use acorn_maths::distributions::*;
use acorn_maths::normal;

/// The definitions: every count looked at.
fn holds(law: &impl Law, most: u32) {
    let [least, top] = law.range();
    let counts: Vec<f64> = (0..=most).map(f64::from).filter(|count| (least..=top).contains(count)).collect();
    let chances: Vec<f64> = counts.iter().map(|count| law.ln_chance(*count).exp()).collect();
    let total: f64 = chances.iter().sum();
    assert!((total - 1.0).abs() < 1e-12, "{total}");
    for (place, seen) in counts.iter().enumerate() {
        let rare = |chance: &&f64| **chance <= chances[place] * (1.0 + AS_LIKELY);
        let want: f64 = chances.iter().filter(rare).sum();
        assert!((law.two_sided(*seen) - want).abs() < 1e-11, "{seen}: {} {want}", law.two_sided(*seen));
        let below: f64 = chances[..=place].iter().sum();
        assert!((law.at_most(*seen) - below).abs() < 1e-11 && (law.at_least(*seen + 1.0) - (1.0 - below)).abs() < 1e-11, "{seen}");
    }
}

#[test]
fn chances_of_every_law_are_those_of_every_count() {
    for p in [0.0, 0.02, 0.3, 0.5, 0.8, 1.0] {
        [1.0, 2.0, 9.0, 40.0].into_iter().for_each(|n| holds(&Binomial { n, p }, 40));
    }
    [0.0, 0.4, 1.0, 7.3, 30.0].into_iter().for_each(|mean| holds(&Poisson { mean }, 130));
    for (total, marked, drawn) in [(21.0, 8.0, 11.0), (9.0, 9.0, 4.0), (30.0, 1.0, 29.0), (40.0, 20.0, 20.0), (5.0, 0.0, 3.0)] {
        holds(&Hypergeometric { total, marked, drawn }, 40);
    }
}

#[test]
fn even_numbers_stand_for_counts_as_often_as_their_chance() {
    for (total, marked, drawn) in [(21.0, 8.0, 11.0), (9.0, 9.0, 4.0), (4000.0, 1500.0, 700.0)] {
        let law = Hypergeometric { total, marked, drawn };
        let n = 40_000;
        let counts: Vec<f64> = (0..n).map(|k| law.drawn_by((f64::from(k) + 0.5) / f64::from(n))).collect();
        let [least, most] = law.range();
        let mut count = least;
        while count <= most {
            let share = counts.iter().filter(|drawn| **drawn == count).count() as f64 / f64::from(n);
            assert!((share - law.ln_chance(count).exp()).abs() < 1e-4, "{count}: {share}");
            count += 1.0;
        }
    }
}

#[test]
fn digits_are_kept_where_counts_are_large() {
    // Of n = 2e9 halves, the middle: 1 / sqrt(pi n / 2) (1 - 1 / (4 n)).
    let n = 2e9;
    let middle = Binomial { n, p: 0.5 }.ln_chance(1e9).exp() * (std::f64::consts::PI * n / 2.0).sqrt();
    assert!((middle - 1.0).abs() < 1e-9, "{middle}");
    // The urn is so large that drawing from it changes nothing.
    let (urn, coin) = (Hypergeometric { total: 1e15, marked: 3e14, drawn: 50.0 }, Binomial { n: 50.0, p: 0.3 });
    assert!((urn.two_sided(21.0) / coin.two_sided(21.0) - 1.0).abs() < 1e-9);
    assert!((0.0..1e-9).contains(&Binomial { n: 2e9, p: 0.4999 }.two_sided(1e9)));
    let vast = Hypergeometric { total: 4e15, marked: 2e15, drawn: 2e15 };
    assert!((vast.two_sided(1e15 + 1e8) - 2.0 * normal::above(6.324_555)).abs() < 1e-9);
}
