//! What each kind of chart builds: panels to draw, and what it learned on the way.

use std::sync::Arc;

use serde::Serialize;

use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::process::Process;

/// The panels of a chart with the facts that only its kind knows.
#[derive(Default)]
pub struct ChartParts {
    /// Location first, then spread.
    pub panels: Vec<PanelSpec>,
    /// The process that judges the newest phase.
    pub process: Option<Process>,
    /// Points that the loosest limits rest on.
    pub limits_sample_size: usize,
    /// The fewest degrees of freedom that an sd rests on; `None` where no sd is estimated.
    pub limits_df: Option<f64>,
    /// What was observed, when something made of it is plotted.
    pub observed: Option<Arc<[f64]>>,
    /// The charted columns as they are charted, where that is not as they were read.
    pub charted: Option<Vec<Arc<[f64]>>>,
    /// Further facts.
    pub diagnostics: Diagnostics,
}

/// What only some kinds of chart know.
#[derive(Default)]
pub struct Diagnostics {
    /// Of counts: whether they scatter as counts do.
    pub dispersion: Option<Dispersion>,
    /// Of a prime chart: by how much its limits are widened.
    pub sigma_z: Option<f64>,
    /// Of a run chart.
    pub runs: Option<Runs>,
    /// Of a cumulative sum: the sums above and below.
    pub sums: Option<[Arc<[f64]>; 2]>,
    /// The share in which each of the two tails of the limits is crossed by chance, when it is not the normal's.
    pub tail: Option<f64>,
    /// Of pieces between events: their mean.
    pub mean_between: Option<f64>,
    /// The smallest mean number of bad pieces a sample.
    pub mean_count: Option<f64>,
    /// Of deviations: parts without a target of their own.
    pub without_target: Vec<String>,
    /// Of deviations: whether the parts spread alike, as a chance.
    pub equal_spread_p: Option<f64>,
    /// The fitted shape of times between events.
    pub shape: Option<(f64, f64)>,
}

impl Dispersion {
    /// How many times as widely counts scatter as counting explains: as sds, so that it can be seen in the picture.
    pub fn times(&self) -> f64 {
        self.ratio.sqrt()
    }
}

/// Whether counts scatter about their expectation as counts do.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Dispersion {
    /// chi2 / df: 1 when counting alone explains the scatter.
    pub ratio: f64,
    /// Σ (x - E)² / V.
    pub chi2: f64,
    /// Points less one for each phase.
    pub df: f64,
    /// The share of chi-square above; small: too much scatter, close to 1: too little.
    pub p: f64,
}

/// Runs about the median and runs up and down, with normal approximations.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Runs {
    /// Runs on one side of the median.
    pub about_median: MedianRuns,
    /// Runs of rising or falling values.
    pub up_down: UpDownRuns,
}

/// Runs on one side of the median.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct MedianRuns {
    /// Values off the median.
    pub n: usize,
    /// Runs found.
    pub observed: usize,
    /// Runs expected of a random order.
    pub expected: Option<f64>,
    /// The chance of so few: values cluster.
    pub p_clustering: Option<f64>,
    /// The chance of so many: sources are mixed.
    pub p_mixtures: Option<f64>,
}

/// Runs of rising or falling values.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct UpDownRuns {
    /// Values, equal neighbours counted once.
    pub n: usize,
    /// Runs found.
    pub observed: usize,
    /// Runs expected of a random order.
    pub expected: Option<f64>,
    /// The chance of so few: values trend.
    pub p_trends: Option<f64>,
    /// The chance of so many: values swing.
    pub p_oscillation: Option<f64>,
}

impl ChartParts {
    /// Panels with the processes that judge their phases.
    pub fn new(panels: Vec<PanelSpec>, processes: &[Process]) -> ChartParts {
        ChartParts {
            panels,
            process: processes.last().copied(),
            limits_sample_size: processes.iter().map(|process| process.n).min().unwrap_or(0),
            limits_df: processes.iter().map(|process| process.df).filter(|df| df.is_finite()).reduce(f64::min),
            observed: None,
            charted: None,
            diagnostics: Diagnostics::default(),
        }
    }

    /// With what was observed behind the plotted values.
    pub fn with_observed(self, observed: Arc<[f64]>) -> ChartParts {
        ChartParts { observed: Some(observed), ..self }
    }
}

/// A ruler for each process, the same for all points of its phase.
pub fn even(processes: &[Process], lines: impl Fn(&Process) -> Lines) -> Vec<PhaseLimits> {
    processes.iter().map(|process| PhaseLimits::even(lines(process))).collect()
}

/// Fewer points than this leave the limits loose.
pub const ENOUGH_POINTS: usize = 20;

/// Beyond so many points limits are as good as known, and signals are weighed by their own laws.
pub const POINTS_MOST: usize = 20_000;

/// The signals of a chart against those of a steady process.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Chance {
    /// Signals that a steady process shows on average, on all panels.
    pub expected: f64,
    /// The chance of a chart as odd.
    pub p: f64,
    /// Below this chance the signals are more than a steady process shows.
    pub level: f64,
    /// The chance when the same values come in any order; `None` where it was not asked for.
    pub p_order: Option<f64>,
}
