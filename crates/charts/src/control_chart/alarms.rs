//! Whether the signals of a chart are more than chance brings to a steady process.

use super::answer::Chart;
use super::counting::Counting;
use super::kind::ChartKind;
use super::panel::{Panel, PhaseNumbers};
use super::patterns::Pattern;
use super::plotted::Plotted;
use acorn_maths::bias::{c4, range_above, range_constants};
use acorn_maths::judgement::VERY_UNLIKELY;
use acorn_maths::normal;
use acorn_maths::tails::chi_square_above;

/// On a chart that brings fewer signals by chance, each one is worth a look though the process is steady.
const ENOUGH: f64 = 5.0;

/// Among so many points beyond the limits the farthest is looked for; of more the number alone tells.
const FARTHEST_AMONG: usize = 10_000;

/// Signals against those that come by chance.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Alarms {
    /// Signals on all panels.
    pub seen: usize,
    /// As many would come by chance alone.
    pub expected: f64,
    /// Whether chance explains them.
    pub by_chance: bool,
    /// The chance of a chart as odd; `None` where charts were not drawn.
    pub p: Option<f64>,
}

impl Alarms {
    /// Whether chance explains the signals, and brings so few that each is worth a look.
    pub fn are_few(&self) -> bool {
        self.seen > 0 && self.by_chance && self.expected < ENOUGH
    }
}

impl Chart {
    /// Weighs the signals: a chart of a steady process has some. They are more than chance when fewer than 3 % of the charts of steady
    /// processes are as odd ([`super::chance`]). On a chart of very many points limits are as good as known, and nothing is drawn: signals
    /// are more than chance then when a Poisson count about
    /// the expected number (points over points between false alarms, and the tail of ranges or sds on the spread panel) is
    /// as large in less than 1 % of cases, when the farthest point lies where less than 1 % of such charts have one, or when a run
    /// on one side is as long in less than 1 % of them. Counts are judged by their own law, all else by a normal.
    pub fn alarms(&self) -> Alarms {
        let seen: usize = self.panels.iter().map(|panel| panel.signals.len()).sum();
        if seen == 0 {
            return Alarms { seen, expected: 0.0, by_chance: true, p: None };
        }
        if let Some(chance) = self.chance {
            return Alarms { seen, expected: chance.expected, by_chance: chance.p >= chance.level, p: Some(chance.p) };
        }
        let location = &self.panels[0];
        let mut farthest = match &self.counting {
            Some(counting) => 2.0 * self.farthest_count(counting) * location.present as f64,
            None => 2.0 * normal::above(farthest(location)) * location.present as f64,
        };
        for panel in &self.panels[1..] {
            let above = |value: f64| self.spread_above(panel, value).unwrap_or(0.0) * panel.present as f64;
            farthest = farthest.min(panel.extent.map_or(1.0, |[_, high]| above(high)));
        }
        let runs = location.signals.iter().filter(|signal| signal.pattern == Pattern::RunOneSide);
        let longest = runs.map(|signal| signal.last - signal.first + 1).max().unwrap_or(0);
        // So long a run begins at a given point with the chance of as many on either side.
        let sides = self.counting.as_ref().map_or([0.5; 2], Counting::sides);
        let as_long: f64 = sides.iter().map(|side| location.present as f64 * side.powi(longest.min(1000) as i32)).sum();
        let expected = self.expected_alarms();
        let as_many = 1.0 - chi_square_above(2.0 * expected, 2.0 * seen as f64);
        Alarms { seen, expected, by_chance: as_many >= VERY_UNLIKELY && farthest.min(as_long) >= VERY_UNLIKELY, p: None }
    }

    /// How many signals limits that are known exactly would give a steady process on all panels together: the points over the points
    /// between false alarms, and the tail of ranges or standard deviations beyond their limit.
    pub fn expected_alarms(&self) -> f64 {
        let on_location = self.in_control_arl.map_or(0.0, |between| self.panels[0].present as f64 / between);
        let on_spread = |panel: &Panel| {
            let limit = panel.phases.iter().filter_map(|phase| phase.ucl).fold(f64::NAN, f64::min);
            self.spread_above(panel, limit).unwrap_or(0.0) * panel.present as f64
        };
        on_location + self.panels[1..].iter().map(on_spread).sum::<f64>()
    }

    /// The chance of a count as far out as the farthest one beyond the limits, by the law of its own point; 1 when none is.
    fn farthest_count(&self, usual: &Counting) -> f64 {
        let location = &self.panels[0];
        let beyond = location.signals.iter().filter(|signal| signal.pattern == Pattern::BeyondLimits);
        let points = beyond.flat_map(|signal| signal.first..=signal.last).take(FARTHEST_AMONG);
        let chance = |point: usize| {
            let phase = location.phases.iter().rposition(|phase| phase.first <= point).unwrap_or(0);
            let own = if self.kind == ChartKind::G { None } else { Counting::of(self.kind, location.lines(phase, point), self.width) };
            own.as_ref().unwrap_or(usual).as_far(location.values[point])
        };
        points.map(chance).fold(1.0, f64::min)
    }

    /// The chance of a range or sd above a value, for subgroups of the usual size; the sd that it is judged by is that of its
    /// own centre line, which is not the process sd where means are charted as individuals.
    fn spread_above(&self, panel: &Panel, value: f64) -> Option<f64> {
        let moving = panel.plotted == Plotted::MovingRange;
        let size = if moving { 2 } else { (0..self.len().min(100)).map(|point| self.values_behind(point)).max()? };
        let df = size.checked_sub(1).filter(|df| *df > 0)? as f64;
        let center = panel.phases.iter().rev().find_map(|phase| phase.center);
        let by_sd = panel.plotted == Plotted::Sd;
        let per_sd = if by_sd { c4(size as f64)? } else { range_constants(size)?.d2 };
        let sds = value / center.map(|center| center / per_sd).or(self.sigma_within)?;
        let tail = if by_sd { chi_square_above(sds * sds * df, df) } else { range_above(size, sds) };
        Some(tail).filter(|tail| tail.is_finite())
    }
}

/// How many sds the farthest point lies from its centre; 0 when nothing is known.
fn farthest(panel: &Panel) -> f64 {
    let far = |place: usize, point: usize| {
        let lines = panel.lines(place, point);
        ((panel.values[point] - lines.center) / lines.sd).abs()
    };
    let own = |(place, phase): (usize, &PhaseNumbers)| (phase.first..=phase.last).map(|point| far(place, point)).fold(0.0, f64::max);
    match (&panel.phases[..], panel.extent) {
        // One set of lines for all: the ends tell.
        ([only], Some([low, high])) if !panel.steps() => {
            let lines = panel.lines(0, only.first);
            [low, high].map(|value| ((value - lines.center) / lines.sd).abs()).into_iter().fold(0.0, f64::max)
        }
        _ => panel.phases.iter().enumerate().map(own).fold(0.0, f64::max),
    }
}
