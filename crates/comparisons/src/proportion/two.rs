//! Two samples against each other.

use super::numbers::{One, Two};
use super::one::{one, p, wilson};
use super::sample::{Alternative, Counted, Counting};
use acorn_maths::distributions::{Binomial, Hypergeometric};
use acorn_maths::normal;
use acorn_maths::tails::share_interval;

/// Compares the first with the second.
pub fn two(asked: &Counted) -> Two {
    let [a, b] = [&asked.samples[0], &asked.samples[1]];
    let [first, second] = [a, b].map(|sample| one(&Counted { claim: None, ..bare(asked) }, sample));
    let (estimate_1, estimate_2) = (first.estimate, second.estimate);
    let plain = Two {
        counting_pieces: asked.counting == Counting::Pieces,
        estimate_1,
        estimate_2,
        difference: estimate_1 - estimate_2,
        difference_ci95: None,
        ratio: None,
        ratio_ci95: None,
        p: 1.0,
        z: None,
        p_z: None,
        missing: asked.missing,
        samples: vec![first, second],
    };
    match asked.counting {
        Counting::Pieces => {
            let law = Hypergeometric { total: a.of + b.of, marked: a.x + b.x, drawn: a.of };
            let z = pooled([a.x, a.of], [b.x, b.of]);
            Two {
                difference_ci95: Some(newcombe([a.x, a.of], [b.x, b.of])),
                p: p(&law, a.x, asked.alternative),
                z,
                p_z: z.map(|z| of_z(z, asked.alternative)),
                ..plain
            }
        }
        Counting::Defects => {
            let law = Binomial { n: a.x + b.x, p: a.of / (a.of + b.of) };
            let of_odds = |share: f64| (share < 1.0).then(|| share / (1.0 - share) * b.of / a.of);
            let [low, high] = if law.n > 0.0 { share_interval(a.x, law.n) } else { [0.0, 1.0] };
            Two {
                ratio: (b.x > 0.0).then(|| estimate_1 / estimate_2),
                ratio_ci95: Some([of_odds(low), of_odds(high)]),
                p: if law.n > 0.0 { p(&law, a.x, asked.alternative) } else { 1.0 },
                ..plain
            }
        }
    }
}

/// What is asked, without its samples.
fn bare<'f>(asked: &Counted<'f>) -> Counted<'f> {
    Counted { samples: Vec::new(), missing: 0, column: None, many: None, ..*asked }
}

/// The pooled z of two shares; none when nothing or everything counted.
fn pooled([x1, n1]: [f64; 2], [x2, n2]: [f64; 2]) -> Option<f64> {
    let all = (x1 + x2) / (n1 + n2);
    let sd = (all * (1.0 - all) * (1.0 / n1 + 1.0 / n2)).sqrt();
    (sd > 0.0).then(|| (x1 / n1 - x2 / n2) / sd)
}

fn of_z(z: f64, alternative: Alternative) -> f64 {
    match alternative {
        Alternative::NotEqual => (2.0 * normal::above(z.abs())).min(1.0),
        Alternative::Less => normal::below(z),
        Alternative::Greater => normal::above(z),
    }
}

/// Newcombe's interval of the difference of two shares.
fn newcombe([x1, n1]: [f64; 2], [x2, n2]: [f64; 2]) -> [f64; 2] {
    let (p1, p2) = (x1 / n1, x2 / n2);
    let ([l1, u1], [l2, u2]) = (wilson(x1, n1), wilson(x2, n2));
    let reach = |a: f64, b: f64| (a * a + b * b).sqrt();
    [p1 - p2 - reach(p1 - l1, u2 - p2), p1 - p2 + reach(u1 - p1, p2 - l2)]
}

impl Two {
    /// What the samples are called, with their numbers.
    pub fn sides(&self) -> [&One; 2] {
        [&self.samples[0], &self.samples[1]]
    }
}
