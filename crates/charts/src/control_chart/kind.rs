//! The kinds of chart and what sets them apart.

use serde::{Deserialize, Serialize};

use super::patterns::{Pattern, RunRule};

/// The kinds of chart.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum ChartKind {
    /// Single values with their moving range.
    #[default]
    Individuals,
    /// Sample means with ranges.
    XbarR,
    /// Sample means with standard deviations.
    XbarS,
    /// Share of bad pieces.
    P,
    /// Number of bad pieces.
    Np,
    /// Number of blemishes.
    C,
    /// Blemishes per unit.
    U,
    /// Share of bad pieces, limits widened for scatter between samples.
    PPrime,
    /// Blemishes per unit, limits widened for scatter between samples.
    UPrime,
    /// Share or rate taken as a single value.
    Ratio,
    /// Exponentially weighted moving average.
    Ewma,
    /// Cumulative sum.
    Cusum,
    /// Values about their median.
    Run,
    /// Between and within samples.
    XbarBetween,
    /// Pieces between rare events.
    G,
    /// Time between rare events.
    T,
    /// Deviation from the target of each part.
    Deviation,
}

use ChartKind::{C, Cusum, Deviation, Ewma, G, Individuals, Np, P, PPrime, Ratio, Run, T, U, UPrime, XbarBetween, XbarR, XbarS};

impl ChartKind {
    /// All, in the order in which they are offered.
    pub const ALL: [ChartKind; 17] =
        [Individuals, XbarR, XbarS, XbarBetween, P, Np, PPrime, C, U, UPrime, Ratio, Ewma, Cusum, Run, G, T, Deviation];

    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            Individuals => "individuals",
            XbarR => "xbar-r",
            XbarS => "xbar-s",
            P => "p",
            Np => "np",
            C => "c",
            U => "u",
            PPrime => "p-prime",
            UPrime => "u-prime",
            Ratio => "ratio",
            Ewma => "ewma",
            Cusum => "cusum",
            Run => "run",
            XbarBetween => "xbar-between",
            G => "g",
            T => "t",
            Deviation => "deviation",
        }
    }

    /// What it is called.
    pub fn display_text(self) -> &'static str {
        match self {
            Individuals => "individuals and moving range (I-MR)",
            XbarR => "mean and range (x-bar, R)",
            XbarS => "mean and sd (x-bar, s)",
            P => "proportion defective (p)",
            Np => "number of defectives (np)",
            C => "number of defects (c)",
            U => "defects per unit (u)",
            PPrime => "proportion defective, widened for scatter (p-prime)",
            UPrime => "defects per unit, widened for scatter (u-prime)",
            Ratio => "proportion or rate as individuals (I-MR)",
            Ewma => "exponentially weighted moving average (EWMA)",
            Cusum => "cumulative sum (CUSUM)",
            Run => "run chart",
            XbarBetween => "between and within subgroups",
            G => "pieces between events (g)",
            T => "time between events (t)",
            Deviation => "deviation from target",
        }
    }

    /// A line to choose by.
    pub fn use_when(self) -> &'static str {
        match self {
            Individuals => "One measured value at a time.",
            XbarR => "A few pieces measured together, up to about eight.",
            XbarS => "Subgroups of nine or more, or of unlike sizes.",
            P => "Pieces good or bad, and the number inspected changes.",
            Np => "Pieces good or bad, always as many inspected.",
            C => "Defects on the same amount of product each time.",
            U => "Defects, and the amount of product changes.",
            PPrime => "Shares of large subgroups, which scatter more than counting alone.",
            UPrime => "Rates on large amounts, which scatter more than counting alone.",
            Ratio => "Large subgroups of about one size, whose scatter counting does not explain.",
            Ewma => "To see small lasting shifts early.",
            Cusum => "To see small lasting shifts early, and when they began.",
            Run => "A first look, without limits.",
            XbarBetween => "Subgroups that differ by nature: batches, cavities, set-ups.",
            G => "Good pieces between one defective and the next, when bad ones are rare.",
            T => "Time between one event and the next, when events are rare.",
            Deviation => "Short runs of several parts, each with its own target.",
        }
    }

    /// Whether it charts counts of bad pieces or blemishes.
    pub fn counts(self) -> bool {
        self == Ratio || self.limits_from_counting()
    }

    /// Whether its limits follow from the counts, so that no sd is estimated.
    pub fn limits_from_counting(self) -> bool {
        matches!(self, P | Np | C | U | PPrime | UPrime)
    }

    /// Whether it counts bad pieces, of which there are at most as many as were inspected.
    pub fn counts_pieces(self) -> bool {
        matches!(self, P | Np | PPrime)
    }

    /// Whether a point is always a sample.
    pub fn always_sampled(self) -> bool {
        matches!(self, XbarR | XbarS | XbarBetween)
    }

    /// Whether a point may be a sample.
    pub fn may_be_sampled(self) -> bool {
        self.always_sampled() || matches!(self, Ewma | Cusum | Run | Deviation)
    }

    /// Whether a value beyond a specification limit is a point of this chart beyond it.
    pub fn shows_single_values(self) -> bool {
        matches!(self, Individuals | Run)
    }

    /// What the location panel watches for unless told otherwise.
    pub fn default_watches(self) -> Vec<RunRule> {
        let patterns: Vec<Pattern> = match self {
            Ewma | Cusum => vec![Pattern::BeyondLimits],
            Run => vec![Pattern::RunOneSide, Pattern::Trend],
            G | T => vec![Pattern::BeyondLimits, Pattern::RunOneSide],
            P | Np | C | U | PPrime | UPrime => {
                vec![Pattern::BeyondLimits, Pattern::RunOneSide, Pattern::Trend, Pattern::Alternating]
            }
            _ => Pattern::ALL.into_iter().filter(|pattern| pattern.default_on()).collect(),
        };
        patterns.into_iter().map(RunRule::usual).collect()
    }

    /// Patterns that make sense on it.
    pub fn takes(self, pattern: Pattern) -> bool {
        match self {
            Ewma | Cusum => pattern == Pattern::BeyondLimits,
            Run => matches!(pattern, Pattern::RunOneSide | Pattern::Trend | Pattern::Alternating),
            _ => true,
        }
    }
}
