//! From counts to a share, its intervals and the chance of the claim.

use statrs::function::gamma::ln_gamma;

use super::numbers::{Numbers, Outcome};
use super::params::{Alternative, Params};
use crate::numeric::tails::{beta_below, binomial_from, share_interval};

/// z of a 95 % interval.
const Z: f64 = 1.959_963_984_540_054;
/// Outcomes whose chances differ by less are as likely as each other: rounding must not decide.
const AS_LIKELY: f64 = 1e-7;
/// Most outcomes drawn.
const DRAWN_MOST: usize = 240;
/// Outcomes this much rarer than the likeliest are not drawn.
const NOT_DRAWN: f64 = 1e-5;

/// Works it out. Nothing can go wrong with counts that are counts.
pub fn compute(params: &Params) -> Numbers {
    let Params { x, n, claim, alternative, .. } = *params;
    let root = (x * (n - x) / n + Z * Z / 4.0).sqrt();
    let wilson = [(x + Z * Z / 2.0 - Z * root) / (n + Z * Z), (x + Z * Z / 2.0 + Z * root) / (n + Z * Z)];
    Numbers {
        x,
        n,
        missing: params.missing,
        estimate: x / n,
        claim,
        p: claim.map(|claim| p(x, n, claim, alternative)),
        ci95: share_interval(x, n),
        wilson_ci95: wilson.map(|end| end.clamp(0.0, 1.0)),
        outcomes: claim.map_or_else(Vec::new, |claim| outcomes(x, n, claim, alternative)),
    }
}

fn ln_chance(count: f64, n: f64, share: f64) -> f64 {
    let part = |count: f64, share: f64| if count == 0.0 { 0.0 } else { count * share.ln() };
    ln_gamma(n + 1.0) - ln_gamma(count + 1.0) - ln_gamma(n - count + 1.0) + part(count, share) + part(n - count, 1.0 - share)
}

fn at_least(count: f64, n: f64, share: f64) -> f64 {
    binomial_from(count, n, share)
}

fn at_most(count: f64, n: f64, share: f64) -> f64 {
    if count < 0.0 {
        0.0
    } else if count >= n {
        1.0
    } else {
        beta_below(n - count, count + 1.0, 1.0 - share)
    }
}

fn p(x: f64, n: f64, claim: f64, alternative: Alternative) -> f64 {
    match alternative {
        Alternative::Less => at_most(x, n, claim),
        Alternative::Greater => at_least(x, n, claim),
        Alternative::NotEqual => {
            let [low, high] = no_likelier(x, n, claim);
            (at_most(low, n, claim) + at_least(high, n, claim)).min(1.0)
        }
    }
}

/// The largest count below and the smallest above the likeliest that are no likelier than the one seen. Chances rise up to
/// the likeliest count and fall after it, so that halving finds the other side.
fn no_likelier(x: f64, n: f64, claim: f64) -> [f64; 2] {
    let seen = ln_chance(x, n, claim) + AS_LIKELY;
    let likeliest = ((n + 1.0) * claim).floor().min(n);
    let rare = |count: f64| ln_chance(count, n, claim) <= seen;
    if x == likeliest || rare(likeliest) {
        return [likeliest, likeliest + 1.0];
    }
    if x < likeliest {
        // The first rare count above the likeliest, n + 1 when there is none.
        let (mut low, mut high) = (likeliest, n + 1.0);
        while high - low > 1.0 {
            let middle = ((low + high) / 2.0).floor();
            if rare(middle) { high = middle } else { low = middle }
        }
        [x, high]
    } else {
        let (mut low, mut high) = (-1.0, likeliest);
        while high - low > 1.0 {
            let middle = ((low + high) / 2.0).floor();
            if rare(middle) { low = middle } else { high = middle }
        }
        [low, x]
    }
}

/// What samples of that size would show if the claim held, around the likeliest and the one seen.
fn outcomes(x: f64, n: f64, claim: f64, alternative: Alternative) -> Vec<Outcome> {
    let [low, high] = no_likelier(x, n, claim);
    let likeliest = ((n + 1.0) * claim).floor().min(n);
    let reach = 1.0 + 5.0 * (n * claim * (1.0 - claim)).sqrt();
    let (first, last) = ((likeliest - reach).min(x).max(0.0).floor(), (likeliest + reach).max(x).min(n).ceil());
    let step = ((last - first + 1.0) / DRAWN_MOST as f64).ceil().max(1.0);
    // The one seen is always drawn.
    let first = x - ((x - first) / step).floor() * step;
    let top = ln_chance(likeliest, n, claim);
    let outcome = |count: f64| {
        let in_tail = match alternative {
            Alternative::Less => count <= x,
            Alternative::Greater => count >= x,
            Alternative::NotEqual => count <= low || count >= high,
        };
        Outcome { count, chance: ln_chance(count, n, claim).exp(), in_tail }
    };
    let counts = (0..).map(|k| first + f64::from(k) * step).take_while(|count| *count <= last);
    counts.filter(|&count| count == x || ln_chance(count, n, claim) - top > NOT_DRAWN.ln()).map(outcome).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The definition: every outcome looked at.
    fn by_definition(x: u32, n: u32, claim: f64) -> f64 {
        let chance = |count: u32| ln_chance(count.into(), n.into(), claim).exp();
        (0..=n).map(chance).filter(|one| *one <= chance(x) * (1.0 + AS_LIKELY)).sum()
    }

    #[test]
    fn the_two_sided_chance_is_that_of_every_outcome_no_likelier() {
        for claim in [0.0, 0.02, 0.3, 0.5, 0.8, 1.0] {
            for n in [1, 2, 9, 40] {
                for x in 0..=n {
                    let found = p(x.into(), n.into(), claim, Alternative::NotEqual);
                    assert!((found - by_definition(x, n, claim)).abs() < 1e-10, "{x} of {n}, {claim}: {found}");
                }
            }
        }
        assert!((0.0..1e-9).contains(&p(1e9, 2e9, 0.4999, Alternative::NotEqual)));
    }

    #[test]
    fn drawn_outcomes_are_few_and_hold_the_one_seen() {
        for (x, n, claim) in [(0.0, 5.0, 0.9), (3.0, 1e6, 0.5), (1e9, 2e9, 0.5), (7.0, 7.0, 0.0)] {
            let drawn = outcomes(x, n, claim, Alternative::NotEqual);
            assert!(drawn.len() <= DRAWN_MOST + 2 && drawn.iter().any(|one| one.count == x), "{x} {n} {claim} {}", drawn.len());
            assert!(drawn.iter().all(|one| (0.0..=1.0).contains(&one.chance)));
        }
    }
}
