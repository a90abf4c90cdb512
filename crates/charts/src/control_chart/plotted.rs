//! What a panel plots, and what follows from that alone: its name on the wire, its title, its formula, its floor.

use serde::Serialize;

use super::kind::ChartKind;

/// What a panel plots.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Plotted {
    /// Single values.
    Individuals,
    /// Steps from value to value, or over as many as a moving range spans.
    MovingRange,
    /// Means of subgroups.
    Mean,
    /// Ranges of subgroups.
    Range,
    /// Standard deviations of subgroups.
    Sd,
    /// Defectives in those inspected.
    Proportion,
    /// Defectives or defects, counted.
    Count,
    /// Defects per unit.
    Rate,
    /// Exponentially weighted moving averages.
    Ewma,
    /// The larger of the two cumulative sums.
    Cusum,
    /// Values less the target of their part.
    Deviation,
    /// Deviations over the sd of their part.
    StandardisedDeviation,
    /// Pieces from event to event.
    PiecesBetween,
    /// Time from event to event.
    TimeBetween,
}

impl Plotted {
    /// Its name on the wire and in the keys of findings.
    pub fn name(self) -> &'static str {
        use Plotted::*;
        match self {
            Individuals => "individuals",
            MovingRange => "moving-range",
            Mean => "mean",
            Range => "range",
            Sd => "sd",
            Proportion => "proportion",
            Count => "count",
            Rate => "rate",
            Ewma => "ewma",
            Cusum => "cusum",
            Deviation => "deviation",
            StandardisedDeviation => "standardised-deviation",
            PiecesBetween => "pieces-between",
            TimeBetween => "time-between",
        }
    }

    /// Its name in the middle of a sentence.
    pub fn display_text(self) -> String {
        self.name().replace('-', " ")
    }

    /// The title of its panel, in the words of the trade; `size` is the size of the subgroups when they share one.
    pub fn title(self, kind: ChartKind, size: Option<usize>) -> String {
        use Plotted::*;
        let of = size.filter(|size| *size > 1).map_or(String::new(), |size| format!(" of {size}"));
        let words = match self {
            Individuals if kind == ChartKind::Ratio => "Proportion or rate as individuals",
            Individuals => "Individual values",
            MovingRange if kind == ChartKind::XbarBetween => "Moving range of the means",
            MovingRange => "Moving range",
            Mean => return format!("Mean (x-bar){of}"),
            Range => return format!("Range (R){of}"),
            Sd => return format!("Standard deviation (s){of}"),
            Proportion => "Proportion defective (p)",
            Count if kind == ChartKind::Np => "Defectives (np)",
            Count => "Defects (c)",
            Rate => "Defects per unit (u)",
            Ewma => "EWMA",
            Cusum => "CUSUM",
            Deviation => "Deviation from target",
            StandardisedDeviation => "Deviation from target, in sd of the part",
            PiecesBetween => "Pieces between events (g)",
            TimeBetween => "Time between events (t)",
        };
        words.to_owned()
    }

    /// The formula that the glossary and the tables name.
    pub fn formula(self) -> &'static str {
        use Plotted::*;
        match self {
            Individuals | MovingRange => "individuals",
            Mean => "means",
            Range | Sd => "ranges-and-sds",
            Proportion | Count | Rate => "counts",
            Ewma => "ewma",
            Cusum => "cusum",
            Deviation | StandardisedDeviation => "deviation",
            PiecesBetween | TimeBetween => "rare-events",
        }
    }

    /// Whether it can never lie below 0, so that a lower limit of 0 is a floor and no limit.
    pub fn never_negative(self) -> bool {
        use Plotted::*;
        match self {
            MovingRange | Range | Sd | Proportion | Count | Rate | PiecesBetween | TimeBetween => true,
            Individuals | Mean | Ewma | Cusum | Deviation | StandardisedDeviation => false,
        }
    }
}
