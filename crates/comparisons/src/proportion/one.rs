//! One sample: its share or rate, intervals, and the chance of the claim.

use super::numbers::{One, Outcome};
use super::sample::{Alternative, Counted, Counting, Sample};
use acorn_maths::distributions::{Binomial, Law, Poisson};
use acorn_maths::tails::{count_interval, share_interval};

/// z of a 95 % interval.
pub const Z: f64 = 1.959_963_984_540_054;
/// Most outcomes drawn.
pub const DRAWN_MOST: usize = 240;
/// Outcomes this much rarer than the likeliest are not drawn.
const NOT_DRAWN: f64 = 1e-5;

/// Works it out.
pub fn one(asked: &Counted, sample: &Sample) -> One {
    let Sample { x, of, .. } = *sample;
    let pieces = asked.counting == Counting::Pieces;
    let judged = |claim: f64| match asked.counting {
        Counting::Pieces => judge(&Binomial { n: of, p: claim }, x, asked.alternative),
        Counting::Defects => judge(&Poisson { mean: claim * of }, x, asked.alternative),
    };
    let (p, outcomes) = asked.claim.map(judged).unzip();
    One {
        label: sample.label.clone(),
        x,
        n: pieces.then_some(of),
        exposure: (!pieces).then_some(of),
        missing: asked.missing,
        estimate: x / of,
        claim: asked.claim,
        p,
        ci95: if pieces { share_interval(x, of) } else { count_interval(x).map(|end| end / of) },
        wilson_ci95: pieces.then(|| wilson(x, of)),
        outcomes: outcomes.unwrap_or_default(),
    }
}

/// Wilson's 95 % interval.
pub fn wilson(x: f64, n: f64) -> [f64; 2] {
    let root = (x * (n - x) / n + Z * Z / 4.0).sqrt();
    [x + Z * Z / 2.0 - Z * root, x + Z * Z / 2.0 + Z * root].map(|end| (end / (n + Z * Z)).clamp(0.0, 1.0))
}

/// The chance of such a count.
pub fn p(law: &impl Law, x: f64, alternative: Alternative) -> f64 {
    match alternative {
        Alternative::Less => law.at_most(x),
        Alternative::Greater => law.at_least(x),
        Alternative::NotEqual => law.two_sided(x),
    }
}

fn judge(law: &impl Law, x: f64, alternative: Alternative) -> (f64, Vec<Outcome>) {
    (p(law, x, alternative), outcomes(law, x, alternative))
}

/// What such samples would show if the claim held, around the likeliest and the one seen.
pub fn outcomes(law: &impl Law, x: f64, alternative: Alternative) -> Vec<Outcome> {
    let [low, high] = law.no_likelier(x);
    let ([least, most], likeliest) = (law.range(), law.likeliest());
    let reach = 1.0 + 5.0 * law.sd();
    let (first, last) = ((likeliest - reach).min(x).max(least).floor(), (likeliest + reach).max(x).min(most).ceil());
    let step = ((last - first + 1.0) / DRAWN_MOST as f64).ceil().max(1.0);
    // The one seen is always drawn.
    let first = x - ((x - first) / step).floor() * step;
    let top = law.ln_chance(likeliest);
    let outcome = |count: f64| {
        let in_tail = match alternative {
            Alternative::Less => count <= x,
            Alternative::Greater => count >= x,
            Alternative::NotEqual => count <= low || count >= high,
        };
        Outcome { count, chance: law.ln_chance(count).exp(), in_tail }
    };
    let counts = (0..).map(|k| first + f64::from(k) * step).take_while(|count| *count <= last);
    counts.filter(|&count| count == x || law.ln_chance(count) - top > NOT_DRAWN.ln()).map(outcome).collect()
}
