//! The eight patterns of a control chart.
//!
//! Zones are sd of the plotted statistic about the centre. *Beyond* is strictly beyond, *within* is not
//! beyond; a point on the centre breaks a run, equal neighbours break a trend.
//!
//! Sources: Western Electric (1956), Statistical Quality Control Handbook, p. 25-28; Nelson (1984),
//! "The Shewhart control chart: tests for special causes", J. Quality Technology 16(4); ISO 7870-2.

use serde::{Deserialize, Serialize};

use acorn_study::card::Length;

/// A pattern that a steady process seldom shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Pattern {
    /// One point beyond a control limit.
    BeyondLimits,
    /// Points in a row on one side of the centre.
    RunOneSide,
    /// Points in a row rising, or falling.
    Trend,
    /// Points in a row up and down by turns.
    Alternating,
    /// All but one of a few points beyond 2 sd on the same side.
    TwoOfThreeOuter,
    /// All but one of a few points beyond 1 sd on the same side.
    FourOfFiveOuter,
    /// Points in a row within 1 sd.
    HuggingCentre,
    /// Points in a row beyond 1 sd, on either side.
    AvoidingCentre,
}

impl Pattern {
    /// All, in the order of the catalogue.
    pub const ALL: [Pattern; 8] = [
        Pattern::BeyondLimits,
        Pattern::RunOneSide,
        Pattern::Trend,
        Pattern::Alternating,
        Pattern::TwoOfThreeOuter,
        Pattern::FourOfFiveOuter,
        Pattern::HuggingCentre,
        Pattern::AvoidingCentre,
    ];

    /// Its name in a specification.
    pub fn name(self) -> &'static str {
        match self {
            Pattern::BeyondLimits => "beyond-limits",
            Pattern::RunOneSide => "run-one-side",
            Pattern::Trend => "trend",
            Pattern::Alternating => "alternating",
            Pattern::TwoOfThreeOuter => "two-of-three-outer",
            Pattern::FourOfFiveOuter => "four-of-five-outer",
            Pattern::HuggingCentre => "hugging-centre",
            Pattern::AvoidingCentre => "avoiding-centre",
        }
    }

    /// What it is called, and what it finds with `{length}` in braces.
    pub fn display_text(self) -> (&'static str, &'static str) {
        match self {
            Pattern::BeyondLimits => ("beyond the limits", "One point beyond a control limit."),
            Pattern::RunOneSide => ("run on one side", "{length} in a row on one side of the centre."),
            Pattern::Trend => ("trend", "{length} in a row, each higher (or each lower) than the one before."),
            Pattern::Alternating => ("alternating", "{length} in a row, up and down by turns."),
            Pattern::TwoOfThreeOuter => ("outer, near a limit", "{length} of {length+1} in a row beyond 2 sd on the same side."),
            Pattern::FourOfFiveOuter => ("outer, off the middle", "{length} of {length+1} in a row beyond 1 sd on the same side."),
            Pattern::HuggingCentre => ("hugging the centre", "{length} in a row within 1 sd."),
            Pattern::AvoidingCentre => ("avoiding the centre", "{length} in a row beyond 1 sd, on either side."),
        }
    }

    /// Whether a location chart watches for it unless told otherwise.
    pub fn default_on(self) -> bool {
        matches!(self, Pattern::BeyondLimits | Pattern::RunOneSide | Pattern::Trend | Pattern::TwoOfThreeOuter)
    }

    /// Its usual length and bounds; `None` for a single point.
    pub fn length(self) -> Option<Length> {
        let default = match self {
            Pattern::BeyondLimits => return None,
            Pattern::RunOneSide => 9,
            Pattern::Trend => 6,
            Pattern::Alternating => 14,
            Pattern::TwoOfThreeOuter => 2,
            Pattern::FourOfFiveOuter => 4,
            Pattern::HuggingCentre => 15,
            Pattern::AvoidingCentre => 8,
        };
        let low = if matches!(self, Pattern::Trend | Pattern::Alternating) { 3 } else { 2 };
        Some(Length { default, low, high: 100 })
    }
}

/// A pattern watched for, with its length.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct RunRule {
    /// The pattern.
    pub pattern: Pattern,
    /// Points it takes; 1 for a single point.
    pub length: usize,
}

impl RunRule {
    /// A pattern at its usual length.
    pub fn usual(pattern: Pattern) -> RunRule {
        RunRule { pattern, length: pattern.length().map_or(1, |length| length.default) }
    }
}

/// A pattern found, from the first to the last of its points.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
pub struct Signal {
    /// The pattern.
    pub pattern: Pattern,
    /// First point.
    pub first: usize,
    /// Last point, included.
    pub last: usize,
    /// 1 above or rising, -1 below or falling, 0 neither.
    pub side: i8,
}
