//! What was found to explain a chart.

use acorn_maths::shapes::Family;

/// What explains a chart.
#[derive(Clone, Debug, PartialEq)]
pub enum Explanation {
    /// Streams by turns: every so-manieth point is of the same one.
    Alternating {
        /// How many there are.
        streams: usize,
        /// How far their means lie apart.
        apart: f64,
        /// The column that tells them apart.
        by: Option<String>,
    },
    /// Subgroups hold pieces of several streams.
    Stratified {
        /// How many times as widely means would vary if subgroups held one stream.
        times: f64,
        /// The streams with the lowest and the highest mean, and their distance.
        ends: Option<([String; 2], f64)>,
        /// The column that tells them apart; `None` where they stand side by side.
        by: Option<String>,
    },
    /// Streams that a label tells apart, in no order.
    Streams {
        /// The column.
        by: String,
        /// The labels of the lowest and the highest mean.
        ends: [String; 2],
        /// How far these lie apart.
        apart: f64,
    },
    /// Two peaks that no column tells apart.
    TwoGroups {
        /// Where they are.
        centers: [f64; 2],
    },
    /// Values rise, or fall, from one change of something to the next.
    Wear {
        /// What is changed.
        by: String,
        /// By how much they rise in between.
        rise: f64,
    },
    /// Batches differ more than what is within them.
    Batches {
        /// The column of the batches; `None` where they are the subgroups.
        by: Option<String>,
        /// The sd between over the sd within.
        times: f64,
    },
    /// Values come back after as many points.
    Cycle {
        /// How many.
        period: f64,
    },
    /// Neighbours are alike.
    Autocorrelated {
        /// The correlation of neighbours.
        r: f64,
    },
    /// A shape with a long tail.
    Skewed(Family),
    /// Tails heavier than a normal's on both sides.
    HeavyTails,
    /// Counts scatter more than counting explains.
    Overdispersed {
        /// How many times as widely.
        times: f64,
    },
    /// Counts scatter less than counting explains.
    Underdispersed {
        /// How many times as widely.
        times: f64,
    },
    /// Next to no defectives are expected in a sample.
    Rare {
        /// How many.
        mean: f64,
    },
    /// The gauge reads in steps of about the size of the sd.
    Coarse {
        /// The step.
        step: f64,
        /// The same in sds.
        sds: f64,
    },
}
