//! The range method: EV = R̄ K₁, AV from the range of the operator means, PV from that of the part means, with K = 1/d₂*.
//!
//! d₂*(m, g) = √(d₂² + d₃²/g) up to g = 15 and d₂(m) above, as the table of the source has it, computed for any m. Source:
//! AIAG, Measurement Systems Analysis, 4th ed., ch. III; Duncan (1986), Quality Control and Industrial Statistics, app. table D3.

use serde::Serialize;

use super::cells::{Cells, range};
use acorn_maths::bias::range_constants;
use acorn_maths::describe::mean;
use acorn_study::gauge::against::Against;
use acorn_study::gauge::component::ndc;

/// What the range method gives.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeRange)]
pub struct RangeMethod {
    /// Repeatability: the equipment.
    pub ev: Share,
    /// Reproducibility: the operators.
    pub av: Share,
    /// Both: the gauge.
    pub grr: Share,
    /// The parts.
    pub pv: Share,
    /// All together.
    pub tv: Share,
    /// Groups of parts that the gauge tells apart; null when it does not vary.
    pub ndc: Option<f64>,
}

/// A component by the range method.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
#[schema(as = GaugeRangeShare)]
pub struct Share {
    /// Its sd.
    pub sd: f64,
    /// Over the sd of all; null when nothing varies.
    pub pct_study: Option<f64>,
    /// So many sds over the tolerance; null without limits.
    pub pct_tolerance: Option<f64>,
}

/// Up to so many ranges averaged their number counts.
const RANGES_COUNTED: usize = 15;

/// 1/d₂* of ranges of `of` values, `averaged` of them averaged; `None` below two values.
fn k(of: usize, averaged: usize) -> Option<f64> {
    let constants = range_constants(of)?;
    let widened = if averaged > RANGES_COUNTED { 0.0 } else { constants.d3 * constants.d3 / averaged as f64 };
    Some(1.0 / (constants.d2 * constants.d2 + widened).sqrt())
}

impl RangeMethod {
    /// By ranges; `None` with one reading a cell, or when cells differ in number.
    pub fn of(cells: &Cells, against: &Against, room: Option<f64>) -> Option<RangeMethod> {
        let (p, o, r) = (cells.parts.len(), cells.operators.len(), cells.trials()?);
        let ranges: Vec<f64> = cells.values.chunks(r).map(range).collect();
        let ev = mean(&ranges) * k(r, p * o)?;
        let of_operator = |operator: usize| mean(&(0..p).map(|part| mean(cells.cell(part, operator))).collect::<Vec<_>>());
        let operators = range(&(0..o).map(of_operator).collect::<Vec<_>>());
        let av = k(o, 1).map_or(0.0, |k| ((operators * k).powi(2) - ev * ev / (p * r) as f64).max(0.0).sqrt());
        let pv = range(&(0..p).map(|part| mean(cells.of_part(part))).collect::<Vec<_>>()) * k(p, 1)?;
        let grr = ev.hypot(av);
        let tv = grr.hypot(pv);
        let share =
            |sd: f64| Share { sd, pct_study: (tv > 0.0).then(|| sd / tv), pct_tolerance: room.map(|room| against.multiplier * sd / room) };
        Some(RangeMethod { ev: share(ev), av: share(av), grr: share(grr), pv: share(pv), tv: share(tv), ndc: ndc(pv, grr) })
    }
}
