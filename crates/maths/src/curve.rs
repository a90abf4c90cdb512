//! Smooth functions known at a few places, and averages over an unknown spread.

/// A smooth function on a stretch from 0, between its values at Chebyshev's places, by the barycentric formula (Berrut and
/// Trefethen 2004, SIAM Review 46).
pub struct Curve {
    end: f64,
    beyond: f64,
    nodes: Vec<Node>,
}

/// A place with the value there and its weight.
struct Node {
    place: f64,
    value: f64,
    weight: f64,
}

const NODES: usize = 96;

impl Curve {
    /// Knows a function from 0 to `end`; it is `beyond` after that.
    pub fn of(end: f64, beyond: f64, function: impl Fn(f64) -> f64) -> Curve {
        let node = |node: usize| {
            let place = place(end, node);
            let half = if node == 0 || node == NODES - 1 { 0.5 } else { 1.0 };
            Node { place, value: function(place), weight: if node.is_multiple_of(2) { half } else { -half } }
        };
        Curve { end, beyond, nodes: (0..NODES).map(node).collect() }
    }

    /// Its value.
    pub fn at(&self, x: f64) -> f64 {
        if x >= self.end {
            return self.beyond;
        }
        let (mut above, mut below) = (0.0, 0.0);
        for node in &self.nodes {
            let apart = x - node.place;
            if apart.abs() < 1e-14 {
                return node.value;
            }
            let weight = node.weight / apart;
            above += weight * node.value;
            below += weight;
        }
        above / below
    }
}

fn place(end: f64, node: usize) -> f64 {
    0.5 * end * (1.0 - (std::f64::consts::PI * node as f64 / (NODES - 1) as f64).cos())
}

/// Places of the spread s = √(χ²/df) with their weights, which add up to 1.
///
/// They lie evenly in ln s: of one degree of freedom small spreads are common, and a studentized statistic of a thousand is decided by
/// those below a hundredth. Where the ends are nothing the even rule errs by next to nothing (Trefethen and Weideman 2014, SIAM
/// Review 56).
pub fn spreads(df: f64) -> Vec<(f64, f64)> {
    const PANELS: usize = 240;
    // A density of e⁻⁴⁶ is nothing.
    const NOTHING: f64 = 46.0;
    let sd = (0.5 / df).sqrt();
    // ln of the density of ln s, less its top at s = 1: df (ln s + (1 − s²)/2).
    let low = (-NOTHING / df - 0.5).max((1.0 - 12.0 * sd).max(0.0).ln());
    let high = (12.0 * sd).ln_1p();
    let across = (high - low) / PANELS as f64;
    let one = |i: usize| {
        let log = low + across * i as f64;
        let s = log.exp();
        (s, (df * (log + 0.5 * (1.0 - s * s))).exp())
    };
    let all: Vec<(f64, f64)> = (0..=PANELS).map(one).collect();
    let sum: f64 = all.iter().map(|(_, weight)| weight).sum();
    all.into_iter().map(|(s, weight)| (s, weight / sum)).collect()
}
