//! A member of a family: shares below and above, density, quantiles, and how far values are from it.
//!
//! Sources: Johnson, Kotz and Balakrishnan (1994, 1995), Continuous Univariate Distributions; Meeker and Escobar (1998).

use statrs::function::gamma::ln_gamma;

use super::family::{Family, Standard};
use crate::normal;
use crate::root;
use crate::tails::{gamma_above, gamma_below};

/// A member of a family.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shape {
    /// The family.
    pub family: Family,
    /// Location of the values or of their logarithms; 0 of a gamma.
    pub location: f64,
    /// Scale about it.
    pub scale: f64,
    /// The shape parameter α of a gamma; 1 of the others.
    pub alpha: f64,
    /// What lies below every value; 0 for a family of positive values without one, and for the others.
    pub threshold: f64,
}

/// ln(1 + eˣ) without overflow.
fn soft_plus(x: f64) -> f64 {
    if x > 35.0 { x } else { x.exp().ln_1p() }
}

impl Shape {
    /// From what the likelihood gives: α and the scale of a gamma, location and scale of the others.
    pub fn new(family: Family, (first, scale): (f64, f64), threshold: f64) -> Shape {
        let (location, alpha) = if family.standard() == Standard::Gamma { (0.0, first) } else { (first, 1.0) };
        Shape { family, location, scale, alpha, threshold }
    }

    /// The parameters by the names of their field.
    pub fn parameters(&self) -> Vec<(&'static str, f64)> {
        let (location, scale) = (self.location, self.scale);
        let mut named = match self.family.plain() {
            Family::Normal => vec![("mean", location), ("sd", scale)],
            Family::Lognormal => vec![("mu", location), ("sigma", scale)],
            Family::Weibull => vec![("shape", 1.0 / scale), ("scale", location.exp())],
            Family::Gamma => vec![("shape", self.alpha), ("scale", scale)],
            Family::Exponential => vec![("scale", location.exp())],
            _ => vec![("location", location), ("scale", scale)],
        };
        if self.family.has_threshold() {
            named.push(("threshold", self.threshold));
        }
        named
    }

    /// The smallest value it can have, if there is one.
    pub fn bound(&self) -> Option<f64> {
        self.family.is_bounded().then_some(self.threshold)
    }

    /// The value on the scale of the standard density; infinite at and below the bound.
    fn standardised(&self, x: f64) -> f64 {
        let on_scale = if self.family.of_logarithms() {
            let above = x - self.threshold;
            if above <= 0.0 {
                return f64::NEG_INFINITY;
            }
            above.ln()
        } else {
            x
        };
        (on_scale - self.location) / self.scale
    }

    fn gamma_units(&self, x: f64) -> f64 {
        ((x - self.threshold) / self.scale).max(0.0)
    }

    /// The share below a value.
    pub fn below(&self, x: f64) -> f64 {
        let z = self.standardised(x);
        match self.family.standard() {
            Standard::Normal => normal::below(z),
            Standard::Logistic => 1.0 / (1.0 + (-z).exp()),
            Standard::Smallest => -(-z.exp()).exp_m1(),
            Standard::Largest => (-(-z).exp()).exp(),
            Standard::Gamma => gamma_below(self.alpha, self.gamma_units(x)),
        }
    }

    /// The share above a value, from the small side, so that far tails keep their digits.
    pub fn above(&self, x: f64) -> f64 {
        let z = self.standardised(x);
        match self.family.standard() {
            Standard::Normal => normal::above(z),
            Standard::Logistic => 1.0 / (1.0 + z.exp()),
            Standard::Smallest => (-z.exp()).exp(),
            Standard::Largest => -(-(-z).exp()).exp_m1(),
            Standard::Gamma => gamma_above(self.alpha, self.gamma_units(x)),
        }
    }

    /// Logarithms of the shares below and above a value.
    pub(super) fn ln_tails(&self, x: f64) -> (f64, f64) {
        let z = self.standardised(x);
        match self.family.standard() {
            Standard::Normal => (normal::ln_below(z), normal::ln_below(-z)),
            Standard::Logistic => (-soft_plus(-z), -soft_plus(z)),
            Standard::Smallest => ((-(-z.exp()).exp_m1()).ln(), -z.exp()),
            Standard::Largest => (-(-z).exp(), (-(-(-z).exp()).exp_m1()).ln()),
            Standard::Gamma => (self.below(x).ln(), self.above(x).ln()),
        }
    }

    /// The logarithm of the density at a value; -∞ where it cannot lie.
    pub fn ln_density(&self, x: f64) -> f64 {
        if self.family.standard() == Standard::Gamma {
            let above = x - self.threshold;
            if above <= 0.0 {
                return f64::NEG_INFINITY;
            }
            let (k, scale) = (self.alpha, self.scale);
            return (k - 1.0) * above.ln() - above / scale - k * scale.ln() - ln_gamma(k);
        }
        let z = self.standardised(x);
        if z == f64::NEG_INFINITY {
            return f64::NEG_INFINITY;
        }
        let stretch = if self.family.of_logarithms() { (x - self.threshold).ln() } else { 0.0 };
        let standard = match self.family.standard() {
            Standard::Normal => -0.5 * z * z - 0.5 * (2.0 * std::f64::consts::PI).ln(),
            Standard::Logistic => -z - 2.0 * soft_plus(-z),
            Standard::Largest => -z - (-z).exp(),
            _ => z - z.exp(),
        };
        standard - self.scale.ln() - stretch
    }

    /// The value below which a share lies, given the shares on both sides of it, of which the smaller is used.
    pub fn quantile(&self, below: f64, above: f64) -> f64 {
        let z = match self.family.standard() {
            Standard::Normal if below < above => normal::quantile(below),
            Standard::Normal => -normal::quantile(above),
            Standard::Logistic => below.ln() - above.ln(),
            // ln(-ln S), where S is near 1 by the small share itself.
            Standard::Smallest if below < above => (-(-below).ln_1p()).ln(),
            Standard::Smallest => (-above.ln()).ln(),
            Standard::Largest if below < above => -(-below.ln()).ln(),
            Standard::Largest => -(-(-above).ln_1p()).ln(),
            Standard::Gamma => return self.threshold + self.scale * gamma_units_at(self.alpha, below, above),
        };
        let on_scale = self.location + self.scale * z;
        if self.family.of_logarithms() { self.threshold + on_scale.exp() } else { on_scale }
    }

    /// Anderson and Darling's statistic of sorted values against this shape; infinite when a value cannot come from it.
    ///
    /// A2 = -n - Σ [(2i - 1) ln F(xᵢ) + (2(n - i) + 1) ln(1 - F(xᵢ))]/n.
    pub fn anderson_darling(&self, sorted: &[f64]) -> f64 {
        let n = sorted.len() as f64;
        let term = |(i, &x): (usize, &f64)| {
            let (below, above) = self.ln_tails(x);
            let place = 2.0 * i as f64 + 1.0;
            place * below + (2.0 * n - place) * above
        };
        -n - sorted.iter().enumerate().map(term).sum::<f64>() / n
    }

    /// The logarithm of the likelihood of values.
    pub fn ln_likelihood(&self, values: &[f64]) -> f64 {
        values.iter().map(|&x| self.ln_density(x)).sum()
    }
}

/// The quantile of a gamma of scale 1, by halving on a logarithmic scale.
fn gamma_units_at(shape: f64, below: f64, above: f64) -> f64 {
    let misses = |units: f64| {
        if below < above { gamma_below(shape, units) - below } else { above - gamma_above(shape, units) }
    };
    let most = (shape + 10.0 * shape.sqrt() + 800.0).ln();
    root::between(-700.0, most, |ln_units| misses(ln_units.exp()) < 0.0).exp()
}
