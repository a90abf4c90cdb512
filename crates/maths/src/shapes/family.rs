//! Families of shapes by name, and the standard density behind each.

use serde::Serialize;

/// A family of shapes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Family {
    /// Normal.
    Normal,
    /// Normal logarithms.
    Lognormal,
    /// Weibull.
    Weibull,
    /// Gamma.
    Gamma,
    /// Exponential.
    Exponential,
    /// Logistic.
    Logistic,
    /// Logistic logarithms.
    Loglogistic,
    /// Gumbel's for minima.
    SmallestExtremeValue,
    /// Gumbel's for maxima.
    LargestExtremeValue,
    /// Normal logarithms above a threshold.
    LognormalThreshold,
    /// Weibull above a threshold.
    WeibullThreshold,
    /// Gamma above a threshold.
    GammaThreshold,
    /// Exponential above a threshold.
    ExponentialThreshold,
    /// Logistic logarithms above a threshold.
    LoglogisticThreshold,
}

/// The standard density behind a family.
#[derive(Clone, Copy, PartialEq)]
pub enum Standard {
    Normal,
    Logistic,
    Smallest,
    Largest,
    /// Not a location and scale: shape and scale.
    Gamma,
}

impl Family {
    /// All families, those without a threshold first.
    pub const ALL: [Family; 14] = [
        Family::Normal,
        Family::Lognormal,
        Family::Weibull,
        Family::Gamma,
        Family::Exponential,
        Family::Logistic,
        Family::Loglogistic,
        Family::SmallestExtremeValue,
        Family::LargestExtremeValue,
        Family::LognormalThreshold,
        Family::WeibullThreshold,
        Family::GammaThreshold,
        Family::ExponentialThreshold,
        Family::LoglogisticThreshold,
    ];

    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            Family::Normal => "normal",
            Family::Lognormal => "lognormal",
            Family::Weibull => "weibull",
            Family::Gamma => "gamma",
            Family::Exponential => "exponential",
            Family::Logistic => "logistic",
            Family::Loglogistic => "loglogistic",
            Family::SmallestExtremeValue => "smallest-extreme-value",
            Family::LargestExtremeValue => "largest-extreme-value",
            Family::LognormalThreshold => "lognormal-threshold",
            Family::WeibullThreshold => "weibull-threshold",
            Family::GammaThreshold => "gamma-threshold",
            Family::ExponentialThreshold => "exponential-threshold",
            Family::LoglogisticThreshold => "loglogistic-threshold",
        }
    }

    /// Its name in a sentence.
    pub fn display_text(self) -> &'static str {
        match self {
            Family::Normal => "normal",
            Family::Lognormal => "lognormal",
            Family::Weibull => "Weibull",
            Family::Gamma => "gamma",
            Family::Exponential => "exponential",
            Family::Logistic => "logistic",
            Family::Loglogistic => "loglogistic",
            Family::SmallestExtremeValue => "smallest extreme value",
            Family::LargestExtremeValue => "largest extreme value",
            Family::LognormalThreshold => "lognormal above a threshold",
            Family::WeibullThreshold => "Weibull above a threshold",
            Family::GammaThreshold => "gamma above a threshold",
            Family::ExponentialThreshold => "exponential above a threshold",
            Family::LoglogisticThreshold => "loglogistic above a threshold",
        }
    }

    /// The family of a name.
    pub fn named(name: &str) -> Option<Family> {
        Family::ALL.into_iter().find(|family| family.name() == name)
    }

    /// The same family without its threshold; itself when it has none.
    pub fn plain(self) -> Family {
        match self {
            Family::LognormalThreshold => Family::Lognormal,
            Family::WeibullThreshold => Family::Weibull,
            Family::GammaThreshold => Family::Gamma,
            Family::ExponentialThreshold => Family::Exponential,
            Family::LoglogisticThreshold => Family::Loglogistic,
            plain => plain,
        }
    }

    /// Whether a threshold is fitted with it.
    pub fn has_threshold(self) -> bool {
        self.plain() != self
    }

    /// Whether it describes only values above 0, or above its threshold.
    pub fn is_bounded(self) -> bool {
        matches!(self.plain(), Family::Lognormal | Family::Weibull | Family::Gamma | Family::Exponential | Family::Loglogistic)
    }

    /// How many parameters are fitted.
    pub fn parameters(self) -> usize {
        let plain = if self.plain() == Family::Exponential { 1 } else { 2 };
        plain + usize::from(self.has_threshold())
    }

    pub(super) fn standard(self) -> Standard {
        match self.plain() {
            Family::Normal | Family::Lognormal => Standard::Normal,
            Family::Logistic | Family::Loglogistic => Standard::Logistic,
            Family::LargestExtremeValue => Standard::Largest,
            Family::Gamma => Standard::Gamma,
            _ => Standard::Smallest,
        }
    }

    /// Whether it is a location and scale of logarithms.
    pub fn of_logarithms(self) -> bool {
        self.is_bounded() && self.plain() != Family::Gamma
    }
}
