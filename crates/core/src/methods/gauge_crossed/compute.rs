//! From checked parameters to an answer: components both ways, operators beside each other, and what would help.

use super::anova::{Line, Tables};
use super::cells::{Cells, mean, range};
use super::components::{Component, ndc};
use super::decision::Decision;
use super::numbers::{Anova, Basis, Mended, Numbers, Part, Spread};
use super::params::{Params, Way};
use super::range::RangeMethod;
use super::tables;
use crate::numeric::describe;
use crate::numeric::tails::{chi_square_upper, t_two_sided};
use crate::study::filled::bad;
use crate::study::words::{ValueFormat, grouped};
use crate::study::{Brief, Cancel, Kept, Numbered, StudyError, Table, View};

/// A reading that its neighbours do not explain.
pub struct Odd {
    /// Its place among the readings.
    pub reading: usize,
    /// How far it lies from the mean of its cell.
    pub off: f64,
}

/// A finished study.
pub struct Answer {
    pub(super) numbers: Numbers,
    pub(super) cells: Cells,
    /// The reading that stands out most, if one does.
    pub(super) odd: Option<Odd>,
    /// Whether every operator read the parts in one and the same order.
    pub(super) same_order: bool,
    /// Ids of the rows of the readings.
    ids: Vec<i64>,
    /// What was read, for sentences.
    pub(super) measure: String,
    pub(super) part: String,
    pub(super) operator: String,
}

/// More readings than this are sent by their smallest, mean and largest.
const DRAWN_MOST: usize = 4000;
/// Up to so many different values are counted.
const DISTINCT_MOST: usize = 30;

/// Answers a statement.
///
/// # Errors
/// What [`Cells::of`] refuses; [`StudyError::BadOption`] for the range method with one reading a cell.
pub fn answer(params: &Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let cells = Cells::of(params, cancel)?;
    let grand = mean(&cells.values);
    let (against, room) = (&params.against, params.against.room(grand));
    let tables = Tables::of(&cells);
    cancel.check()?;
    let anova = anova(params, &tables, &cells, room);
    let by_range = RangeMethod::of(&cells, against, room);
    if params.way == Way::Range && by_range.is_none() {
        return Err(bad("method", "ranges need two readings of each part by each operator; take the variance analysis"));
    }
    let basis = match (room, against.process_sd) {
        (Some(_), _) => Basis::Tolerance,
        (None, Some(_)) => Basis::Process,
        (None, None) => Basis::Study,
    };
    // repeatability, operators, gauge, parts; by the variance analysis unless only ranges were asked for.
    let variances = match (&by_range, params.way) {
        (Some(by_range), Way::Range) => [by_range.ev.sd, by_range.av.sd, by_range.grr.sd, by_range.pv.sd].map(|sd| sd * sd),
        _ => [1, 2, 0, 5].map(|place: usize| anova.components[place].variance),
    };
    let [repeat, operators, gauge, part] = variances;
    // Where nothing varies nothing is told of the gauge, not that it is perfect.
    let share_of = |variance: f64, total: f64| match basis {
        _ if total <= 0.0 => None,
        Basis::Tolerance => room.map(|room| against.multiplier * variance.sqrt() / room),
        Basis::Process => against.process_sd.map(|process| variance.sqrt() / process),
        Basis::Study => Some((variance / total).sqrt()),
    };
    let total = gauge + part;
    let spread = |source, variance: f64| Spread { source, wide: against.multiplier * variance.sqrt(), share: share_of(variance, total) };
    let mended = |what, gauge: f64| Mended {
        what,
        pct_study: (gauge + part > 0.0).then(|| (gauge / (gauge + part)).sqrt()),
        pct_tolerance: room.map(|room| against.multiplier * gauge.sqrt() / room),
        share: share_of(gauge, gauge + part),
    };
    let Decision { operators: judged, bias_limits, sd_limits } = Decision::of(&cells);
    // An interval of a variance over a total that varies with it is told for the tolerance and the process only.
    let interval = anova.ci95.filter(|_| params.way != Way::Range && basis != Basis::Study);
    let numbers = Numbers {
        n: cells.values.len(),
        missing: cells.missing,
        trials: cells.trials,
        mean: grand,
        basis,
        share: share_of(gauge, total),
        share_ci95: interval.and_then(|[low, high]| Some([share_of(low, total)?, share_of(high, total)?])),
        ndc: ndc(part.sqrt(), gauge.sqrt()),
        basis_wide: match basis {
            Basis::Tolerance => room,
            Basis::Process => against.process_sd.map(|process| against.multiplier * process),
            Basis::Study => (total > 0.0).then(|| against.multiplier * total.sqrt()),
        },
        spreads: vec![spread("repeatability", repeat), spread("operators", operators), spread("gauge", gauge), spread("parts", part)],
        parts: parts(&cells),
        operators: judged,
        bias_limits,
        sd_limits,
        would_help: vec![
            mended("two readings averaged", 0.5 * repeat + operators),
            mended("no operator differences", repeat),
            mended("repeatability halved", 0.25 * repeat + operators),
        ],
        distinct: describe::few_distinct(&cells.values, DISTINCT_MOST),
        equal_cells: if cells.trials > 1 { cells.values.chunks(cells.trials).filter(|cell| range(cell) == 0.0).count() } else { 0 },
        lsl: against.lsl,
        usl: against.usl,
        tolerance: room,
        multiplier: against.multiplier,
        writer: ValueFormat::of(&params.measure.info, describe::decimals(&cells.values)),
        anova: (params.way != Way::Range).then_some(anova),
        range: by_range.filter(|_| params.way != Way::Anova),
    };
    Ok(Answer {
        odd: odd(&cells, repeat),
        same_order: same_order(&cells),
        ids: cells.rows.iter().map(|&row| params.frame.row_id(row)).collect(),
        measure: params.measure.name.clone(),
        part: params.part.name.clone(),
        operator: params.operator.name.clone(),
        numbers,
        cells,
    })
}

fn anova(params: &Params, tables: &Tables, cells: &Cells, room: Option<f64>) -> Anova {
    let (p, o, r) = (cells.parts.len() as f64, cells.operators.len() as f64, cells.trials as f64);
    let p_interaction = tables.with.as_ref().and_then(|lines| lines[2].p);
    // All readings of a cell alike leave nothing to test the interaction against: it is all there is.
    let only_interaction = tables.with.as_ref().is_some_and(|lines| lines[3].ss == 0.0 && lines[2].ss > 0.0);
    let pooled = !only_interaction && p_interaction.is_none_or(|p| p > params.alpha_pool);
    let (repeat, operator, both, part) = match &tables.with {
        Some([part, operator, both, repeat, _]) if !pooled => {
            let [part, operator, both, repeat] = [part, operator, both, repeat].map(Line::mean_square);
            (repeat, (operator - both) / (p * r), (both - repeat) / r, (part - both) / (o * r))
        }
        _ => {
            let [part, operator, repeat, _] = &tables.without;
            let [part, operator, repeat] = [part, operator, repeat].map(Line::mean_square);
            (repeat, if o > 1.0 { (operator - repeat) / (p * r) } else { 0.0 }, 0.0, (part - repeat) / (o * r))
        }
    };
    let raw = [("operator", operator), ("operator-part", both), ("part", part)];
    let set_to_zero: Vec<&'static str> = raw.iter().filter(|(_, variance)| *variance < 0.0).map(|(source, _)| *source).collect();
    let [operator, both, part] = raw.map(|(_, variance)| variance.max(0.0));
    let gauge = repeat + operator + both;
    let total = gauge + part;
    let sources = [
        ("total-gauge", gauge),
        ("repeatability", repeat),
        ("reproducibility", operator + both),
        ("operator", operator),
        ("operator-part", both),
        ("part", part),
        ("total", total),
    ];
    let cut = set_to_zero.iter().any(|source| *source != "part");
    Anova {
        components: sources.map(|(source, variance)| Component::new(source, variance, total, &params.against, room)).to_vec(),
        ndc: ndc(part.sqrt(), gauge.sqrt()),
        ci95: if cut || gauge <= 0.0 || o < 2.0 { None } else { interval(tables, pooled, [p, o, r]) },
        with_interaction: tables.with.as_ref().map(|lines| lines.to_vec()),
        without_interaction: tables.without.to_vec(),
        p_interaction,
        pooled,
        set_to_zero,
    }
}

/// The modified large sample interval of a sum of mean squares (Burdick, Borror and Montgomery 2003).
fn interval(tables: &Tables, pooled: bool, [p, _, r]: [f64; 3]) -> Option<[f64; 2]> {
    let terms: Vec<(f64, &Line)> = match &tables.with {
        Some([_, operator, both, repeat, _]) if !pooled => {
            vec![(1.0 / (p * r), operator), ((p - 1.0) / (p * r), both), (1.0 - 1.0 / r, repeat)]
        }
        _ => vec![(1.0 / (p * r), &tables.without[1]), (1.0 - 1.0 / (p * r), &tables.without[2])],
    };
    let middle: f64 = terms.iter().map(|(weight, line)| weight * line.mean_square()).sum();
    let reach = |far: &dyn Fn(f64) -> f64| {
        terms.iter().map(|(weight, line)| (far(line.df) * weight * line.mean_square()).powi(2)).sum::<f64>().sqrt()
    };
    let low = reach(&|df| 1.0 - df / chi_square_upper(0.025, df));
    let high = reach(&|df| df / chi_square_upper(0.975, df) - 1.0);
    let ends = [(middle - low).max(0.0), middle + high];
    ends.iter().all(|end| end.is_finite()).then_some(ends)
}

/// The parts, lowest mean first.
fn parts(cells: &Cells) -> Vec<Part> {
    let many = cells.values.len() > DRAWN_MOST;
    let readings = |cell: &[f64]| match many {
        true => {
            vec![cell.iter().copied().fold(f64::INFINITY, f64::min), mean(cell), cell.iter().copied().fold(f64::NEG_INFINITY, f64::max)]
        }
        false => cell.to_vec(),
    };
    let one = |part: usize| Part {
        label: cells.parts[part].clone(),
        mean: mean(cells.of_part(part)),
        readings: (0..cells.operators.len()).map(|operator| readings(cells.cell(part, operator))).collect(),
    };
    let mut all: Vec<Part> = (0..cells.parts.len()).map(one).collect();
    all.sort_by(|a, b| a.mean.total_cmp(&b.mean));
    all
}

/// The reading farthest from the mean of its cell, if chance hardly brings one so far among so many: |e| over s √(1 − 1/r)
/// against Bonferroni's t.
fn odd(cells: &Cells, repeat: f64) -> Option<Odd> {
    let (n, r) = (cells.values.len() as f64, cells.trials as f64);
    let df = n - n / r;
    if cells.trials < 3 || repeat <= 0.0 {
        return None;
    }
    let off = |reading: usize| cells.values[reading] - mean(&cells.values[reading / cells.trials * cells.trials..][..cells.trials]);
    let far = (0..cells.values.len()).max_by(|&a, &b| off(a).abs().total_cmp(&off(b).abs()))?;
    let scaled = off(far).abs() / (repeat * (1.0 - 1.0 / r)).sqrt();
    (scaled > t_two_sided(0.01 / n, df)).then(|| Odd { reading: far, off: off(far) })
}

/// Whether each operator took the parts in the same order each time, which a random order hardly does.
fn same_order(cells: &Cells) -> bool {
    let order = |operator: usize, trial: usize| {
        let mut parts: Vec<usize> = (0..cells.parts.len()).collect();
        parts.sort_by_key(|&part| cells.rows[(part * cells.operators.len() + operator) * cells.trials + trial]);
        parts
    };
    let first = order(0, 0);
    cells.parts.len() > 3 && (0..cells.operators.len()).all(|operator| (0..cells.trials).all(|trial| order(operator, trial) == first))
}

impl Numbered for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl Kept for Answer {
    fn bytes(&self) -> usize {
        let readings: usize = self.numbers.parts.iter().flat_map(|part| &part.readings).map(|cell| size_of_val(&cell[..]) + 24).sum();
        size_of_val(&self.cells.values[..]) + size_of_val(&self.cells.rows[..]) + size_of_val(&self.ids[..]) + readings
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let gauge = of.spreads.iter().find(|spread| spread.source == "gauge").map(|spread| of.writer.computed(spread.wide / of.multiplier));
        let ndc = of.ndc.map(|ndc| grouped(ndc as usize));
        let all = [("gauge sd", gauge), ("ndc", ndc), ("values", Some(grouped(of.n)))];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn tables(&self) -> Vec<Table> {
        tables::all(&self.numbers)
    }

    fn points(&self, view: &View) -> Table {
        tables::readings(&self.cells, &self.numbers.writer, view)
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.ids.get(first..=last.min(self.ids.len().saturating_sub(1))).unwrap_or_default().to_vec()
    }
}
