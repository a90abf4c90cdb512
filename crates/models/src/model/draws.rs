//! Draws of inputs, the same whatever the number of threads and whatever other inputs there are.
//!
//! Every block of an input has a stream of its own, started from the seed, the name of the input and the number of the block.
//! Plain draws are made several at a time, normals in pairs and the rest by inversion or a standard sampler; stratified and correlated ones go
//! through the normal quantile scale: a Latin hypercube (McKay, Beckman and Conover 1979) puts one draw into each of N equal
//! slices of every input, and correlated inputs share a normal copula.

use pulp::Arch;
use rand::SeedableRng;
use rand::distr::{Distribution as _, Open01};
use rand_distr::{Beta, Gamma};
use rand_xoshiro::Xoshiro256PlusPlus;

use super::distribution::Distribution;
use super::random::{BLOCK, Draw, Lanes, Quick, mix};
use super::slices::Slices;
use acorn_maths::normal;
use acorn_maths::shapes::{Family, Shape};

/// How draws are spread.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, serde::Deserialize, serde::Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Sampling {
    /// Each by itself.
    #[default]
    Plain,
    /// One in each of as many equal slices.
    LatinHypercube,
}

/// Quantiles tabled over the normal scale: where values lie that take long to invert.
///
/// Cubic Hermite pieces over z from -8.3 to 8.3, on the scale of logarithms or logits, on which quantiles are smooth.
#[derive(Clone, Debug)]
pub struct Tabled {
    nodes: Vec<f64>,
    slopes: Vec<f64>,
    scale: Scale,
}

#[derive(Clone, Copy, Debug)]
enum Scale {
    Log { threshold: f64 },
    Logit { low: f64, range: f64 },
}

const REACH: f64 = 8.3;
const NODES: usize = 416;

impl Scale {
    fn of(self, x: f64) -> f64 {
        match self {
            Scale::Log { threshold } => (x - threshold).max(1e-300).ln(),
            Scale::Logit { low, range } => {
                let u = ((x - low) / range).clamp(1e-300, 1.0 - 1e-16);
                (u / (1.0 - u)).ln()
            }
        }
    }

    fn back(self, y: f64) -> f64 {
        match self {
            Scale::Log { threshold } => threshold + y.exp(),
            Scale::Logit { low, range } => low + range / (1.0 + (-y).exp()),
        }
    }
}

impl Tabled {
    fn of(distribution: &Distribution) -> Option<Tabled> {
        let scale = match distribution {
            Distribution::Beta { low, high, .. } => Scale::Logit { low: *low, range: high - low },
            Distribution::Shape(shape) if distribution.is_slow() => Scale::Log { threshold: shape.threshold },
            _ => return None,
        };
        let step = 2.0 * REACH / (NODES - 1) as f64;
        let at = |place: usize| {
            let z = -REACH + step * place as f64;
            scale.of(distribution.quantile(normal::below(z), normal::above(z)))
        };
        let nodes: Vec<f64> = (0..NODES).map(at).collect();
        let slope = |place: usize| match place {
            0 => nodes[1] - nodes[0],
            last if last == NODES - 1 => nodes[last] - nodes[last - 1],
            place => (nodes[place + 1] - nodes[place - 1]) / 2.0,
        };
        let slopes = (0..NODES).map(slope).collect();
        Some(Tabled { nodes, slopes, scale })
    }

    fn at(&self, z: f64) -> f64 {
        let place = ((z + REACH) / (2.0 * REACH) * (NODES - 1) as f64).clamp(0.0, (NODES - 1) as f64);
        let left = (place as usize).min(NODES - 2);
        let t = place - left as f64;
        let (a, b, da, db) = (self.nodes[left], self.nodes[left + 1], self.slopes[left], self.slopes[left + 1]);
        let y = a + t * (da + t * (3.0 * (b - a) - 2.0 * da - db + t * (2.0 * (a - b) + da + db)));
        self.scale.back(y)
    }
}

/// Draws one input.
#[derive(Clone, Debug)]
pub struct Drawer {
    distribution: Distribution,
    tabled: Option<Tabled>,
    key: u64,
}

/// Where draws come from.
#[derive(Clone, Copy, Debug)]
pub struct Source {
    /// What all of them start from.
    pub seed: u64,
    /// Which of several independent sets.
    pub set: u64,
    /// How many there are in all, when they are spread over slices.
    pub slices: Option<u64>,
}

impl Source {
    /// The draws of a run of so many.
    pub fn of(seed: u64, sampling: Sampling, draws: usize) -> Source {
        Source { seed, set: 0, slices: (sampling == Sampling::LatinHypercube).then_some(draws as u64) }
    }
}

impl Drawer {
    /// For an input of some name.
    pub fn new(name: &str, distribution: &Distribution, through_normal: bool) -> Drawer {
        let tabled = if through_normal { Tabled::of(distribution) } else { None };
        Drawer {
            distribution: distribution.clone(),
            tabled,
            key: name.bytes().fold(0xcbf2_9ce4_8422_2325, |key, byte| (key ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3)),
        }
    }

    fn start(&self, source: Source, block: u64) -> u64 {
        mix(mix(mix(source.seed ^ 0x9e37_79b9_7f4a_7c15) ^ self.key) ^ source.set.wrapping_mul(0xd134_2543_de82_ef95) ^ block)
    }

    /// Fills a block with draws. A shorter block has the first draws of a whole one.
    pub fn fill(&self, source: Source, block: u64, out: &mut [f64]) {
        if source.slices.is_some() {
            self.normals(source, block, out);
            self.through_normal(out);
            return;
        }
        let start = self.start(source, block);
        if let Some(quick) = quick(&self.distribution) {
            drawn(quick, start, out);
            return;
        }
        let mut rng = Xoshiro256PlusPlus::seed_from_u64(start);
        match &self.distribution {
            Distribution::Constant(value) => out.fill(*value),
            Distribution::Beta { alpha, beta, low, high } => match Beta::new(*alpha, *beta) {
                Ok(unit) => out.iter_mut().for_each(|out| *out = low + (high - low) * unit.sample(&mut rng)),
                Err(_) => out.fill(f64::NAN),
            },
            Distribution::Data(values) => {
                let n = values.len() as f64;
                out.iter_mut().for_each(|out| {
                    let u: f64 = Open01.sample(&mut rng);
                    *out = values[((u * n) as usize).min(values.len() - 1)];
                });
            }
            Distribution::Shape(shape) => match Gamma::new(shape.alpha, shape.scale) {
                Ok(gamma) => out.iter_mut().for_each(|out| *out = shape.threshold + gamma.sample(&mut rng)),
                Err(_) => out.fill(f64::NAN),
            },
            Distribution::Normal { .. } | Distribution::Uniform { .. } | Distribution::Triangular { .. } => {}
        }
    }

    /// Fills a block with standard normals, over slices when there are any.
    pub fn normals(&self, source: Source, block: u64, out: &mut [f64]) {
        let start = self.start(source, block);
        match source.slices {
            None => drawn(Quick::Normal(0.0, 1.0), start, out),
            Some(all) => {
                let mut rng = Xoshiro256PlusPlus::seed_from_u64(start);
                let slices = Slices::new(all, mix(source.seed ^ self.key ^ source.set));
                for (place, out) in out.iter_mut().enumerate() {
                    let slice = slices.of(block * BLOCK as u64 + place as u64);
                    let within: f64 = Open01.sample(&mut rng);
                    *out = normal::quantile((slice as f64 + within) / all as f64);
                }
            }
        }
    }

    /// Turns standard normals into draws of its distribution.
    pub fn through_normal(&self, out: &mut [f64]) {
        match (&self.tabled, &self.distribution) {
            (_, Distribution::Normal { mean, sd }) => out.iter_mut().for_each(|out| *out = mean + sd * *out),
            (_, Distribution::Constant(value)) => out.fill(*value),
            (Some(tabled), _) => out.iter_mut().for_each(|out| *out = tabled.at(*out)),
            (None, distribution) => {
                out.iter_mut().for_each(|out| *out = distribution.quantile(normal::below(*out), normal::above(*out)));
            }
        }
    }
}

/// A whole block, of which the first draws are taken.
fn drawn(from: Quick, start: u64, out: &mut [f64]) {
    let lanes = Lanes::from(start);
    if let Ok(out) = <&mut [f64; BLOCK]>::try_from(&mut *out) {
        Arch::new().dispatch(Draw { from, lanes, out });
        return;
    }
    let mut whole = [0.0; BLOCK];
    Arch::new().dispatch(Draw { from, lanes, out: &mut whole });
    out.copy_from_slice(&whole[..out.len()]);
}

/// The distribution as whole vectors are drawn from it, when they can be.
fn quick(distribution: &Distribution) -> Option<Quick> {
    Some(match distribution {
        Distribution::Normal { mean, sd } => Quick::Normal(*mean, *sd),
        Distribution::Uniform { low, high } => Quick::Uniform(*low, high - low),
        Distribution::Triangular { low, mode, high } => {
            let range = high - low;
            Quick::Triangular([*low, *high, range * (mode - low), range * (high - mode), (mode - low) / range])
        }
        Distribution::Shape(shape) => {
            let Shape { location, scale, threshold, .. } = *shape;
            match shape.family.plain() {
                Family::Lognormal => Quick::Lognormal(threshold, location, scale),
                Family::Weibull | Family::Exponential => Quick::Weibull(threshold, location, scale),
                Family::Loglogistic => Quick::Loglogistic(threshold, location, scale),
                Family::Logistic => Quick::Logistic(location, scale),
                Family::SmallestExtremeValue => Quick::SmallestExtremeValue(location, scale),
                Family::LargestExtremeValue => Quick::LargestExtremeValue(location, scale),
                Family::Normal => Quick::Normal(location, scale),
                _ => return None,
            }
        }
        Distribution::Constant(_) | Distribution::Beta { .. } | Distribution::Data(_) => return None,
    })
}
