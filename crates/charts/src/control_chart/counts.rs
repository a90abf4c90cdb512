//! Counts of bad pieces and of blemishes: p, np, c, u, and the prime charts.
//!
//! p: pbar = Σx / Σn, limits pbar ± k √(pbar (1 - pbar) / nᵢ), clipped to [0, 1]; np: nᵢ pbar ± k √(nᵢ pbar (1 - pbar));
//! c: cbar ± k √cbar; u: ubar = Σx / Σn, ubar ± k √(ubar / nᵢ), floored at 0. Prime: zᵢ = (pᵢ - pbar) / sdᵢ,
//! σz = mean |zᵢ - zᵢ₋₁| / d2(2), limits pbar ± k sdᵢ σz. Dispersion: χ² = Σ (xᵢ - Eᵢ)² / Vᵢ on points less one for each
//! phase. Sources: Montgomery (2013), ch. 7; Laney (2002), Quality Engineering 14(4); ISO 7870-2:2023.

use std::ops::Range;
use std::sync::Arc;

use super::individuals::ranges_by_phase;
use super::kind::ChartKind;
use super::panel::{Lines, PanelSpec, PhaseLimits};
use super::params::{Inspected, LimitSource, Params, Sampling};
use super::parts::{ChartParts, Dispersion};
use super::plotted::Plotted;
use super::points::Points;
use super::process::{Process, bases};
use acorn_maths::bias::range_constants;
use acorn_maths::describe::{self, moments};
use acorn_maths::tails::chi_square_above;
use acorn_maths::words::typed;
use acorn_study::StudyError;
use rand::distr::Distribution;
use rand_distr::{Beta, Binomial, Gamma, Poisson};
use rand_xoshiro::Xoshiro256PlusPlus;

/// Counts and numbers inspected, one of each a point; NaN where either is missing.
pub struct Counts {
    kind: ChartKind,
    count: Arc<[f64]>,
    size: Vec<f64>,
    used: Vec<bool>,
}

impl Counts {
    /// Reads them, checking each.
    ///
    /// # Errors
    /// [`StudyError::BadValue`] for a negative count, or more bad pieces than were inspected.
    pub fn read(params: &Params, points: &Points) -> Result<Counts, StudyError> {
        let count = match params.sampling {
            _ if params.counted.is_some() => params.counted.clone().unwrap_or_default(),
            Some(Sampling::Periods(..)) => (0..points.len()).map(|point| points.rows(point).len() as f64).collect(),
            _ => points.of_rows(params.values()),
        };
        let size: Vec<f64> = match params.inspected {
            Some(Inspected::Column(sizes)) => points.of_rows(sizes).to_vec(),
            Some(Inspected::Constant(size)) => vec![size; count.len()],
            Some(Inspected::PerPoint) => {
                (0..points.len()).map(|point| params.sizes.get(&points.label(point)).copied().unwrap_or(f64::NAN)).collect()
            }
            None => vec![1.0; count.len()],
        };
        for (point, (&x, &n)) in count.iter().zip(&size).enumerate() {
            let bad =
                |problem: String| Err(StudyError::BadValue { column: params.column().name.clone(), row: points.first_row(point), problem });
            if x < 0.0 {
                return bad(format!("{} is negative, which a count cannot be", typed(x)));
            }
            if n < 0.0 {
                return bad(format!("{} inspected is negative", typed(n)));
            }
            if params.kind.counts_pieces() && x > n {
                return bad(format!("{x} defectives are more than the {n} inspected"));
            }
        }
        // A sample of which nothing was inspected says nothing.
        let there = |point: usize| !count[point].is_nan() && size[point] > 0.0;
        let used = (0..count.len()).map(|point| there(point) && !points.is_omitted(point)).collect();
        Ok(Counts { kind: params.kind, count, size, used })
    }

    /// Σx / Σn of a stretch, and the points it rests on.
    fn pooled(&self, stretch: Range<usize>) -> Process {
        let (mut x, mut n, mut points) = (0.0, 0.0, 0);
        for i in stretch.filter(|&i| self.used[i]) {
            x += self.count[i];
            n += self.size[i];
            points += 1;
        }
        Process { center: x / n, sigma: f64::NAN, n: points, df: f64::NAN }
    }

    /// The share or rate by which each point is judged.
    ///
    /// # Errors
    /// [`StudyError::OutOfRange`] for a baseline outside the points.
    pub fn centers(&self, params: &Params, points: &Points) -> Result<Vec<f64>, StudyError> {
        let of_phases: Vec<f64> = match params.limits {
            // A known np centre is a number of pieces; the share follows from the mean size.
            LimitSource::Known { center, .. } => {
                let per = if params.kind == ChartKind::Np { moments(&self.size).mean.unwrap_or(1.0) } else { 1.0 };
                vec![center / per; points.phases.len()]
            }
            _ => bases(params, points)?.into_iter().map(|basis| self.pooled(basis).center).collect(),
        };
        let each = points.phases.iter().zip(of_phases).flat_map(|(phase, center)| phase.points.clone().map(move |_| center));
        Ok(each.collect())
    }

    /// The sd of one count with a share or rate.
    fn count_sd(&self, i: usize, center: f64) -> f64 {
        let failing = if self.kind.counts_pieces() { 1.0 - center } else { 1.0 };
        (self.size[i] * center * failing).max(0.0).sqrt()
    }

    /// The share or rate of each point.
    pub fn ratios(&self) -> Arc<[f64]> {
        self.ratios_of(&self.count)
    }

    /// The same of other counts of as many.
    pub fn ratios_of(&self, count: &[f64]) -> Arc<[f64]> {
        count.iter().zip(&self.size).map(|(x, n)| if *n > 0.0 { x / n } else { f64::NAN }).collect()
    }

    /// The mean variance that counting gives a share or rate.
    pub fn ratio_variance(&self, center: f64) -> f64 {
        let there = |i: &usize| !self.count[*i].is_nan() && self.size[*i] > 0.0;
        let variances: Vec<f64> = (0..self.count.len()).filter(there).map(|i| (self.count_sd(i, center) / self.size[i]).powi(2)).collect();
        moments(&variances).mean.unwrap_or(0.0)
    }

    /// How many there are.
    pub fn points(&self) -> usize {
        self.count.len()
    }

    /// Whether no count is larger than its number inspected, as with pieces.
    pub fn at_most_inspected(&self) -> bool {
        self.count.iter().zip(&self.size).all(|(x, n)| x.is_nan() || x <= n)
    }

    /// One count a point from a steady process of a share or rate a phase: of pieces binomial, else Poisson; widened beyond counting,
    /// the share or rate of each subgroup is drawn too, from a beta or gamma.
    pub fn drawn(&self, centers: &[f64], widening: f64, random: &mut Xoshiro256PlusPlus) -> Arc<[f64]> {
        let one = |point: usize| {
            let (size, center) = (self.size[point], centers[point]);
            let mean = size * center;
            if self.count[point].is_nan() || mean.is_nan() {
                return f64::NAN;
            }
            if mean <= 0.0 {
                return 0.0;
            }
            let extra = widening * widening - 1.0;
            if self.kind.counts_pieces() && size.fract() == 0.0 && size > 1.0 {
                // The share of a subgroup is itself drawn where subgroups differ more than counting explains.
                let alike = (extra / (size - 1.0)).min(0.999);
                let share = match Beta::new(center * (1.0 / alike - 1.0), (1.0 - center) * (1.0 / alike - 1.0)) {
                    Ok(law) if alike > 0.0 => law.sample(random),
                    _ => center,
                };
                return Binomial::new(size as u64, share.clamp(0.0, 1.0)).map_or(f64::NAN, |law| law.sample(random) as f64);
            }
            let times = match Gamma::new(mean / extra, extra / mean) {
                Ok(law) if extra > 0.0 => law.sample(random),
                _ => 1.0,
            };
            let count = Poisson::new(mean * times).map_or(0.0, |law| law.sample(random));
            if self.kind.counts_pieces() { count.min(size) } else { count }
        };
        (0..self.count.len()).map(one).collect()
    }

    /// The smallest and the largest number inspected.
    pub fn sizes(&self) -> Option<[f64; 2]> {
        describe::extent(&self.size)
    }

    /// Whether counts scatter about what their size explains.
    fn dispersion(&self, points: &Points, centers: &[f64]) -> Option<Dispersion> {
        let (mut chi2, mut n) = (0.0, 0.0);
        for (phase, &center) in points.phases.iter().zip(centers) {
            for i in phase.points.clone().filter(|&i| self.used[i]) {
                let off = (self.count[i] - self.size[i] * center) / self.count_sd(i, center);
                chi2 += off * off;
                n += 1.0;
            }
        }
        let df = n - points.phases.len() as f64;
        let ratio = chi2 / df;
        (df > 0.0 && ratio.is_finite()).then(|| Dispersion { ratio, chi2, df, p: chi_square_above(chi2, df) })
    }
}

/// The chart of counts.
///
/// # Errors
/// [`StudyError`] for impossible counts or a baseline outside the points.
pub fn build(params: &Params, points: &Points) -> Result<ChartParts, StudyError> {
    let counts = Counts::read(params, points)?;
    let processes: Vec<Process> = match params.limits {
        // A known np centre is a number of pieces; the share follows from the mean size.
        LimitSource::Known { center, .. } => {
            let per = if params.kind == ChartKind::Np { moments(&counts.size).mean.unwrap_or(1.0) } else { 1.0 };
            vec![Process::known(center / per, None, points.len()); points.phases.len()]
        }
        _ => bases(params, points)?.into_iter().map(|basis| counts.pooled(basis)).collect(),
    };
    let centers: Vec<f64> = processes.iter().map(|process| process.center).collect();
    let prime = matches!(params.kind, ChartKind::PPrime | ChartKind::UPrime);
    let widening = if prime { widening(params, points, &counts, &centers)? } else { vec![1.0; centers.len()] };
    let (plotted, per_size, ceiling) = match params.kind {
        ChartKind::Np | ChartKind::C => (Plotted::Count, false, f64::INFINITY),
        ChartKind::P | ChartKind::PPrime => (Plotted::Proportion, true, 1.0),
        _ => (Plotted::Rate, true, f64::INFINITY),
    };
    let lines = |i: usize, center: f64, widen: f64| {
        let n = counts.size[i];
        let sd = counts.count_sd(i, center) * widen;
        let ceiling = if params.kind == ChartKind::Np { n } else { ceiling };
        let lines = if per_size { Lines::about(center, sd / n, params.width) } else { Lines::about(n * center, sd, params.width) };
        lines.within(0.0, ceiling)
    };
    let judged = points.phases.iter().zip(centers.iter().zip(&widening));
    let phase_limits =
        judged.map(|(phase, (&center, &widen))| PhaseLimits::of(phase.points.clone().map(|i| lines(i, center, widen)).collect())).collect();
    let values = if per_size { counts.ratios() } else { counts.count.clone() };
    let mut parts = ChartParts::new(vec![PanelSpec::new(plotted, values, phase_limits)], &processes);
    parts.process = None;
    parts.diagnostics.dispersion = counts.dispersion(points, &centers);
    parts.diagnostics.sigma_z = prime.then(|| widening.last().copied()).flatten().filter(|z| z.is_finite());
    parts.diagnostics.mean_count = counts.kind.counts_pieces().then(|| {
        let expected = points.phases.iter().zip(&centers).flat_map(|(phase, center)| phase.points.clone().map(move |i| (i, center)));
        let of = moments(&expected.filter(|(i, _)| counts.used[*i]).map(|(i, center)| counts.size[i] * center).collect::<Vec<_>>());
        of.mean.unwrap_or(f64::NAN)
    });
    Ok(parts)
}

/// σz of each phase: how much more neighbours differ than counting explains.
fn widening(params: &Params, points: &Points, counts: &Counts, centers: &[f64]) -> Result<Vec<f64>, StudyError> {
    if let LimitSource::Known { sigma: Some(sigma), .. } = params.limits {
        return Ok(vec![sigma; centers.len()]);
    }
    let d2 = range_constants(2).expect("two values have a range").d2;
    let mut scores = vec![f64::NAN; counts.count.len()];
    for (phase, &center) in points.phases.iter().zip(centers) {
        for i in phase.points.clone().filter(|&i| counts.used[i]) {
            scores[i] = (counts.count[i] - counts.size[i] * center) / counts.count_sd(i, center);
        }
    }
    let ranges = ranges_by_phase(&scores, points, 2);
    let of = |basis: Range<usize>| {
        let inside = (basis.start + 1).min(basis.end)..basis.end;
        moments(&ranges[inside]).mean.map_or(f64::NAN, |mean| mean / d2)
    };
    Ok(bases(params, points)?.into_iter().map(of).collect())
}
