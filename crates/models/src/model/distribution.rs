//! How an input is distributed.
//!
//! Sources: Johnson, Kotz and Balakrishnan (1994, 1995), Continuous Univariate Distributions.

use std::f64::consts::PI;
use std::sync::Arc;

use serde_json::{Map, Value};
use statrs::function::gamma::{gamma, ln_gamma};

use acorn_maths::normal;
use acorn_maths::root;
use acorn_maths::shapes::{Family, Shape};
use acorn_maths::tails::beta_below;
use acorn_study::card::{Choice, Field};

/// Euler's constant, the mean of a standard largest extreme value.
const EULER: f64 = 0.577_215_664_901_532_9;

/// A distribution with its parameters.
#[derive(Clone, Debug, PartialEq)]
pub enum Distribution {
    /// One value.
    Constant(f64),
    /// The usual bell.
    Normal {
        /// Its mean.
        mean: f64,
        /// Its sd, above 0.
        sd: f64,
    },
    /// Even between two values.
    Uniform {
        /// The lower end.
        low: f64,
        /// The upper end.
        high: f64,
    },
    /// A triangle.
    Triangular {
        /// The lower end.
        low: f64,
        /// Where it is highest.
        mode: f64,
        /// The upper end.
        high: f64,
    },
    /// A member of a family that values can be fitted with.
    Shape(Shape),
    /// Between two values.
    Beta {
        /// The first shape parameter.
        alpha: f64,
        /// The second shape parameter.
        beta: f64,
        /// The lower end.
        low: f64,
        /// The upper end.
        high: f64,
    },
    /// Values as they are, sorted.
    Data(Arc<[f64]>),
}

/// Names, words and parameters of the distributions that can be typed, as the choices of the card.
pub fn choices() -> Vec<Choice> {
    let number = |name: &'static str| Field::number(name, name, true, None);
    let above = |name: &'static str| Field::number(name, name, true, Some(0.0));
    let threshold = || Field::number("threshold", "threshold", false, None);
    vec![
        Choice::with("normal", "normal", "Many small causes that add up; the usual one.", vec![number("mean"), above("sd")]),
        Choice::with("uniform", "uniform", "Anything between two ends is as likely.", vec![number("low"), number("high")]),
        Choice::with(
            "triangular",
            "triangular",
            "Least, most and likeliest are known, and little else.",
            vec![number("low"), number("mode"), number("high")],
        ),
        Choice::with(
            "lognormal",
            "lognormal",
            "Causes that multiply; a long tail upwards.",
            vec![number("mu"), above("sigma"), threshold()],
        ),
        Choice::with("weibull", "Weibull", "Times to failure, strengths.", vec![above("shape"), above("scale"), threshold()]),
        Choice::with("gamma", "gamma", "Waiting times, amounts; a tail upwards.", vec![above("shape"), above("scale"), threshold()]),
        Choice::with("exponential", "exponential", "Waiting times without memory.", vec![above("scale"), threshold()]),
        Choice::with(
            "beta",
            "beta",
            "Between two hard ends, leaning to one.",
            vec![above("alpha"), above("beta"), number("low"), number("high")],
        ),
        Choice::with("logistic", "logistic", "As a normal, with heavier tails.", vec![number("location"), above("scale")]),
        Choice::with(
            "loglogistic",
            "loglogistic",
            "As a lognormal, with a heavier tail.",
            vec![number("location"), above("scale"), threshold()],
        ),
        Choice::with("smallest-extreme-value", "smallest extreme value", "The weakest of many.", vec![number("location"), above("scale")]),
        Choice::with("largest-extreme-value", "largest extreme value", "The worst of many.", vec![number("location"), above("scale")]),
        Choice::plain("data", "data as they are", "Values drawn again with equal chance."),
    ]
}

/// What reads parameters by name.
struct Given<'a>(&'a Map<String, Value>);

impl Given<'_> {
    fn any(&self, name: &str) -> Result<f64, String> {
        let value = self.0.get(name).filter(|value| !value.is_null()).ok_or_else(|| format!("needs its {name}"))?;
        let number = value.as_f64().filter(|number| number.is_finite()).ok_or_else(|| format!("its {name} is not a number"))?;
        if number.abs() > LARGEST { Err(format!("its {name} is too large to compute with")) } else { Ok(number) }
    }

    fn above_zero(&self, name: &str) -> Result<f64, String> {
        let number = self.any(name)?;
        if number > 0.0 { Ok(number) } else { Err(format!("its {name} must be above 0")) }
    }

    fn zero_or_more(&self, name: &str) -> Result<f64, String> {
        let number = self.any(name)?;
        if number >= 0.0 { Ok(number) } else { Err(format!("its {name} must be 0 or more")) }
    }

    fn threshold(&self) -> Result<f64, String> {
        if self.0.get("threshold").is_none_or(Value::is_null) { Ok(0.0) } else { self.any("threshold") }
    }
}

/// The squares of larger parameters would be no numbers.
const LARGEST: f64 = 1e100;
/// Most values typed as data.
pub const VALUES_MOST: usize = 100_000;

impl Distribution {
    /// Reads a distribution by name.
    ///
    /// # Errors
    /// What is wrong with it, in words that follow the name of the input.
    pub fn read(name: &str, parameters: &Map<String, Value>) -> Result<Distribution, String> {
        let choices = choices();
        let choice = choices.iter().find(|choice| choice.value == name).ok_or_else(|| {
            let known: Vec<&str> = choices.iter().map(|choice| choice.value).collect();
            format!("“{name}” is none of the distributions {}", known.join(", "))
        })?;
        let known = |key: &String| choice.fields.iter().any(|field| field.name == key) || (name == "data" && key == "values");
        if let Some(odd) = parameters.keys().find(|key| !known(key)) {
            return Err(format!("“{odd}” is not a parameter of a {} distribution", choice.words));
        }
        let given = Given(parameters);
        let shape = |family: Family, location: f64, scale: f64, alpha: f64| {
            let threshold = given.threshold()?;
            Ok(Distribution::Shape(Shape { family, location, scale, alpha, threshold }))
        };
        match name {
            "normal" => Ok(Distribution::normal(given.any("mean")?, given.zero_or_more("sd")?)),
            "uniform" => {
                let (low, high) = ends(given.any("low")?, given.any("high")?)?;
                Ok(if low == high { Distribution::Constant(low) } else { Distribution::Uniform { low, high } })
            }
            "triangular" => {
                let (low, high) = ends(given.any("low")?, given.any("high")?)?;
                let mode = given.any("mode")?;
                if !(low..=high).contains(&mode) {
                    return Err("its mode must lie between low and high".to_owned());
                }
                Ok(if low == high { Distribution::Constant(low) } else { Distribution::Triangular { low, mode, high } })
            }
            "beta" => {
                let (low, high) = ends(given.any("low")?, given.any("high")?)?;
                let (alpha, beta) = (given.above_zero("alpha")?, given.above_zero("beta")?);
                Ok(if low == high { Distribution::Constant(low) } else { Distribution::Beta { alpha, beta, low, high } })
            }
            "lognormal" => {
                let (mu, sigma) = (given.any("mu")?, given.zero_or_more("sigma")?);
                let middle = given.threshold()? + mu.exp();
                // The far tail of a wider one holds nothing but infinity.
                if mu.abs() > 200.0 || sigma > 20.0 {
                    return Err("its logarithms reach beyond what can be computed with".to_owned());
                }
                if sigma == 0.0 { Ok(Distribution::Constant(middle)) } else { shape(Family::LognormalThreshold, mu, sigma, 1.0) }
            }
            "weibull" => {
                let (k, scale) = (given.above_zero("shape")?, given.above_zero("scale")?);
                shape(Family::WeibullThreshold, scale.ln(), 1.0 / k, 1.0)
            }
            "gamma" => shape(Family::GammaThreshold, 0.0, given.above_zero("scale")?, given.above_zero("shape")?),
            "exponential" => shape(Family::ExponentialThreshold, given.above_zero("scale")?.ln(), 1.0, 1.0),
            "loglogistic" => shape(Family::LoglogisticThreshold, given.any("location")?, given.above_zero("scale")?, 1.0),
            "logistic" => shape(Family::Logistic, given.any("location")?, given.above_zero("scale")?, 1.0),
            "smallest-extreme-value" => shape(Family::SmallestExtremeValue, given.any("location")?, given.above_zero("scale")?, 1.0),
            "largest-extreme-value" => shape(Family::LargestExtremeValue, given.any("location")?, given.above_zero("scale")?, 1.0),
            _ => {
                let values = parameters.get("values").and_then(Value::as_array).ok_or("needs its values, or a column")?;
                let numbers: Option<Vec<f64>> = values.iter().map(|value| value.as_f64().filter(|value| value.abs() <= LARGEST)).collect();
                Distribution::of_data(numbers.ok_or("its values are not all numbers")?)
            }
        }
    }

    /// A normal; one value when it has no spread.
    pub fn normal(mean: f64, sd: f64) -> Distribution {
        if sd == 0.0 { Distribution::Constant(mean) } else { Distribution::Normal { mean, sd } }
    }

    /// Values as they are.
    ///
    /// # Errors
    /// Without values, or with too many typed ones.
    pub fn of_data(mut values: Vec<f64>) -> Result<Distribution, String> {
        values.retain(|value| !value.is_nan());
        values.sort_unstable_by(f64::total_cmp);
        match values[..] {
            [] => Err("has no values to draw from".to_owned()),
            [first, .., last] if first < last => Ok(Distribution::Data(values.into())),
            [first, ..] => Ok(Distribution::Constant(first)),
        }
    }

    /// A fitted shape.
    pub fn of_shape(shape: Shape) -> Distribution {
        match shape.family {
            Family::Normal => Distribution::normal(shape.location, shape.scale),
            _ => Distribution::Shape(shape),
        }
    }

    /// The same with its spread about its mean (its median where it has none) multiplied.
    pub fn spread(&self, by: f64) -> Distribution {
        let middle = self.mean().unwrap_or_else(|| self.quantile(0.5, 0.5));
        let moved = |x: f64| middle + by * (x - middle);
        if by == 0.0 {
            return Distribution::Constant(middle);
        }
        match self {
            Distribution::Constant(value) => Distribution::Constant(*value),
            Distribution::Normal { mean, sd } => Distribution::Normal { mean: *mean, sd: by * sd },
            Distribution::Uniform { low, high } => Distribution::Uniform { low: moved(*low), high: moved(*high) },
            Distribution::Triangular { low, mode, high } => {
                Distribution::Triangular { low: moved(*low), mode: moved(*mode), high: moved(*high) }
            }
            Distribution::Beta { alpha, beta, low, high } => {
                Distribution::Beta { alpha: *alpha, beta: *beta, low: moved(*low), high: moved(*high) }
            }
            Distribution::Data(values) => Distribution::Data(values.iter().map(|value| moved(*value)).collect()),
            Distribution::Shape(shape) => {
                let (location, scale, threshold) = match shape.family.plain() {
                    Family::Gamma => (shape.location, by * shape.scale, moved(shape.threshold)),
                    // Of logarithms: what is multiplied adds to the location.
                    _ if shape.family.of_logarithms() => (shape.location + by.ln(), shape.scale, moved(shape.threshold)),
                    _ => (moved(shape.location), by * shape.scale, 0.0),
                };
                let family = if shape.family.of_logarithms() || shape.family.plain() == Family::Gamma {
                    above_threshold(shape.family)
                } else {
                    shape.family
                };
                Distribution::Shape(Shape { family, location, scale, threshold, ..*shape })
            }
        }
    }

    /// The mean; `None` where there is none.
    pub fn mean(&self) -> Option<f64> {
        let mean = match self {
            Distribution::Constant(value) => *value,
            Distribution::Normal { mean, .. } => *mean,
            Distribution::Uniform { low, high } => low + (high - low) / 2.0,
            Distribution::Triangular { low, mode, high } => (low + mode + high) / 3.0,
            Distribution::Beta { alpha, beta, low, high } => low + (high - low) * alpha / (alpha + beta),
            Distribution::Data(values) => values.iter().sum::<f64>() / values.len() as f64,
            Distribution::Shape(shape) => shape_moments(shape)?.0,
        };
        mean.is_finite().then_some(mean)
    }

    /// The standard deviation; `None` where there is none.
    pub fn sd(&self) -> Option<f64> {
        let sd = match self {
            Distribution::Constant(_) => 0.0,
            Distribution::Normal { sd, .. } => *sd,
            Distribution::Uniform { low, high } => (high - low) / 12f64.sqrt(),
            Distribution::Triangular { low, mode, high } => {
                ((high - low).powi(2) - (mode - low) * (high - mode)).max(0.0).sqrt() / 18f64.sqrt()
            }
            Distribution::Beta { alpha, beta, low, high } => {
                let sum = alpha + beta;
                (high - low) * (alpha * beta / (sum + 1.0)).sqrt() / sum
            }
            Distribution::Data(values) => {
                let mean = self.mean()?;
                (values.iter().map(|value| (value - mean).powi(2)).sum::<f64>() / values.len() as f64).sqrt()
            }
            Distribution::Shape(shape) => shape_moments(shape)?.1?,
        };
        sd.is_finite().then_some(sd)
    }

    /// The value below which a share lies, given the shares on both sides of it.
    pub fn quantile(&self, below: f64, above: f64) -> f64 {
        match self {
            Distribution::Constant(value) => *value,
            Distribution::Normal { mean, sd } => mean + sd * if below < above { normal::quantile(below) } else { -normal::quantile(above) },
            Distribution::Uniform { low, high } => {
                if below < above {
                    low + (high - low) * below
                } else {
                    high - (high - low) * above
                }
            }
            Distribution::Triangular { low, mode, high } => triangular(*low, *mode, *high, below, above),
            Distribution::Beta { alpha, beta, low, high } => low + (high - low) * beta_quantile(*alpha, *beta, below, above),
            Distribution::Data(values) => values[((below * values.len() as f64) as usize).min(values.len() - 1)],
            Distribution::Shape(shape) => shape.quantile(below, above),
        }
    }

    /// Whether its quantiles take long enough to be tabled.
    pub fn is_slow(&self) -> bool {
        match self {
            Distribution::Beta { .. } => true,
            Distribution::Shape(shape) => shape.family.plain() == Family::Gamma,
            _ => false,
        }
    }

    /// Density at a value, for its picture; data have none.
    pub fn density(&self, x: f64) -> Option<f64> {
        let density = match self {
            Distribution::Constant(_) | Distribution::Data(_) => return None,
            Distribution::Normal { mean, sd } => normal::density((x - mean) / sd) / sd,
            Distribution::Uniform { low, high } => {
                if (*low..=*high).contains(&x) {
                    1.0 / (high - low)
                } else {
                    0.0
                }
            }
            Distribution::Triangular { low, mode, high } => {
                let top = 2.0 / (high - low);
                match x {
                    x if x < *low || x > *high => 0.0,
                    x if x < *mode => top * (x - low) / (mode - low),
                    x if x > *mode => top * (high - x) / (high - mode),
                    _ => top,
                }
            }
            Distribution::Beta { alpha, beta, low, high } => {
                let u = (x - low) / (high - low);
                if !(u > 0.0 && u < 1.0) {
                    return Some(0.0);
                }
                let ln_beta = ln_gamma(*alpha) + ln_gamma(*beta) - ln_gamma(alpha + beta);
                ((alpha - 1.0) * u.ln() + (beta - 1.0) * (-u).ln_1p() - ln_beta).exp() / (high - low)
            }
            Distribution::Shape(shape) => shape.ln_density(x).exp(),
        };
        Some(if density.is_finite() { density } else { 0.0 })
    }
}

/// The same family above a threshold, whatever that is.
fn above_threshold(family: Family) -> Family {
    match family.plain() {
        Family::Lognormal => Family::LognormalThreshold,
        Family::Weibull => Family::WeibullThreshold,
        Family::Gamma => Family::GammaThreshold,
        Family::Exponential => Family::ExponentialThreshold,
        Family::Loglogistic => Family::LoglogisticThreshold,
        other => other,
    }
}

fn ends(low: f64, high: f64) -> Result<(f64, f64), String> {
    if low <= high { Ok((low, high)) } else { Err("its low must not lie above its high".to_owned()) }
}

/// Mean and sd of a shape, by the moments of its family.
fn shape_moments(shape: &Shape) -> Option<(f64, Option<f64>)> {
    let (location, scale, threshold) = (shape.location, shape.scale, shape.threshold);
    let (mean, sd) = match shape.family.plain() {
        Family::Normal => (location, Some(scale)),
        Family::Lognormal => {
            let mean = (location + scale * scale / 2.0).exp();
            (mean, Some(mean * (scale * scale).exp_m1().sqrt()))
        }
        Family::Weibull => {
            let (unit, first, second) = (location.exp(), gamma(1.0 + scale), gamma(1.0 + 2.0 * scale));
            (unit * first, Some(unit * (second - first * first).max(0.0).sqrt()))
        }
        Family::Exponential => (location.exp(), Some(location.exp())),
        Family::Gamma => (shape.alpha * scale, Some(shape.alpha.sqrt() * scale)),
        Family::Logistic => (location, Some(scale * PI / 3f64.sqrt())),
        Family::Loglogistic => {
            // Moments of an order that the tail is too heavy for do not exist.
            let moment = |order: f64| (order * scale < 1.0).then(|| order * scale * PI / (order * scale * PI).sin());
            let mean = moment(1.0)?;
            let sd = moment(2.0).map(|second| location.exp() * (second - mean * mean).max(0.0).sqrt());
            (location.exp() * mean, sd)
        }
        Family::SmallestExtremeValue => (location - EULER * scale, Some(scale * PI / 6f64.sqrt())),
        _ => (location + EULER * scale, Some(scale * PI / 6f64.sqrt())),
    };
    Some((threshold + mean, sd))
}

fn triangular(low: f64, mode: f64, high: f64, below: f64, above: f64) -> f64 {
    let range = high - low;
    if below * range < mode - low { low + (below * range * (mode - low)).sqrt() } else { high - (above * range * (high - mode)).sqrt() }
}

/// The quantile of a beta between 0 and 1, on the scale of its logit.
fn beta_quantile(alpha: f64, beta: f64, below: f64, above: f64) -> f64 {
    let unit = |logit: f64| 1.0 / (1.0 + (-logit).exp());
    let before = |logit: f64| {
        if below < above { beta_below(alpha, beta, unit(logit)) < below } else { beta_below(beta, alpha, unit(-logit)) > above }
    };
    unit(root::between(-700.0, 700.0, before))
}
