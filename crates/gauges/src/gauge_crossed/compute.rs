//! From checked parameters to an answer: components both ways, operators beside each other, and what would help.

use super::anova::Tables;
use super::cells::{Cells, range};
use super::components::{self, Variances};
use super::decisions::ODD_READING;
use super::numbers::{Anova, Mended, Numbers};
use super::params::{Params, Way};
use super::range::RangeMethod;
use super::readers;
use super::tables;
use acorn_maths::describe::{self, mean};
use acorn_maths::tails::t_two_sided;
use acorn_maths::words::grouped;
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::component::{Component, ndc, spreads};
use acorn_study::gauge::operators::Judged;
use acorn_study::gauge::part::{DRAWN_MOST, Part, drawn};
use acorn_study::reading::bad;
use acorn_study::{Brief, Cancel, GaugeFinding, StoredAnswer, StudyError, Table, ToNumbers, View};

/// A reading that its neighbours do not explain.
pub struct Odd {
    /// Its place among the readings.
    pub reading: usize,
    /// Its place among the readings of the parts, lowest mean first, as the figure has them.
    pub drawn: usize,
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
    /// Whether anything is left to tell repeating from.
    pub(super) repeats: bool,
    /// Ids of the rows of the readings.
    ids: Vec<i64>,
    /// What was read, for sentences.
    pub(super) measure: String,
    pub(super) part: String,
    pub(super) operator: String,
}

/// Up to so many different values are counted.
const DISTINCT_MOST: usize = 30;

/// Answers a statement.
///
/// # Errors
/// What [`Cells::of`] and [`Tables::of`] refuse; [`StudyError::BadOption`] for the range method where it cannot be used.
pub fn answer(params: &Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let cells = Cells::of(params, cancel)?;
    let grand = mean(&cells.values);
    let (against, room) = (&params.against, params.against.room(grand));
    let tables = Tables::of(&cells)?;
    cancel.check()?;
    // Without a degree of freedom for repeating there is no gauge to speak of.
    let repeats = tables.without[2].df > 0.0;
    let analysis = repeats.then(|| Variances::of(&tables, &cells, params.alpha_pool));
    cancel.check()?;
    let by_range = RangeMethod::of(&cells, against, room);
    if params.way == Way::Range && by_range.is_none() {
        let words = match cells.trials() {
            Some(_) => "ranges need two readings of each part by each operator; take the variance analysis",
            None => "ranges need equally many readings of each part by each operator; take the variance analysis, or read what is missing",
        };
        return Err(bad("method", words));
    }
    let basis = against.basis(room);
    // repeatability, operators, gauge, parts; by the variance analysis unless only ranges were asked for.
    let variances = match (&by_range, params.way, &analysis) {
        (Some(by_range), Way::Range, _) => Some([by_range.ev.sd, by_range.av.sd, by_range.grr.sd, by_range.pv.sd].map(|sd| sd * sd)),
        (_, _, analysis) => analysis.as_ref().map(Variances::four),
    };
    let [repeat, operators, gauge, part] = variances.unwrap_or_default();
    let total = gauge + part;
    let share_of = |variance: f64, total: f64| against.share(room, variance, total);
    let mended = |what, gauge: f64| Mended {
        what,
        pct_study: (gauge + part > 0.0).then(|| (gauge / (gauge + part)).sqrt()),
        pct_tolerance: room.map(|room| against.multiplier * gauge.sqrt() / room),
        share: share_of(gauge, gauge + part),
    };
    // Where operators read some parts differently, means of operators differ by that alone.
    let kept = analysis.as_ref().is_some_and(|of| !of.pooled);
    let interaction = tables.with.as_ref().filter(|_| kept).map(|lines| (lines[2].mean_square(), lines[2].df));
    let Judged { operators: judged, bias_limits, sd_limits } =
        Judged::of(readers::of(&cells, tables.unbalanced.as_ref()), interaction, (0..cells.len()).map(|cell| cells.nth(cell)));
    let by_analysis = analysis.as_ref().filter(|_| params.way != Way::Range && total > 0.0);
    let drawn = by_analysis.and_then(|analysis| components::drawn_intervals(&tables, analysis, &cells));
    let ci95 = by_analysis.and_then(|analysis| components::interval(&tables, analysis, &cells));
    let gauge_ci95 = ci95.or(drawn.map(|drawn| drawn.gauge));
    let study_ci95 = drawn.map(|drawn| drawn.study);
    let share_ci95 = match basis {
        Basis::Study => study_ci95,
        _ => gauge_ci95.and_then(|[low, high]| Some([share_of(low, total)?, share_of(high, total)?])),
    };
    let part_means: Vec<f64> = (0..cells.parts.len()).map(|part| mean(cells.of_part(part))).collect();
    let mut rising: Vec<usize> = (0..cells.parts.len()).collect();
    rising.sort_by(|&a, &b| part_means[a].total_cmp(&part_means[b]));
    let trials = (0..cells.len()).map(|cell| cells.nth(cell).len()).max().unwrap_or(0);
    let alike = (0..cells.len()).map(|cell| cells.nth(cell)).filter(|cell| cell.len() > 1 && range(cell) == 0.0).count();
    let numbers = Numbers {
        n: cells.values.len(),
        missing: cells.missing,
        asked: cells.asked,
        unread: cells.unread.clone(),
        trials,
        balanced: cells.trials().is_some(),
        mean: grand,
        basis,
        share: variances.and_then(|_| share_of(gauge, total)),
        share_ci95,
        study_ci95,
        ndc: variances.and_then(|_| ndc(part.sqrt(), gauge.sqrt())),
        basis_wide: against.wide(room, total),
        spreads: variances.map(|variances| spreads(variances, against, room)).unwrap_or_default(),
        parts: parts(&cells, &rising),
        in_order: in_order(&cells, &rising),
        operators: judged,
        bias_limits,
        sd_limits,
        would_help: match variances {
            Some(_) => vec![
                mended("two readings averaged", 0.5 * repeat + operators),
                mended("no operator differences", repeat),
                mended("repeatability halved", 0.25 * repeat + operators),
            ],
            None => Vec::new(),
        },
        distinct: describe::few_distinct(&cells.values, DISTINCT_MOST),
        equal_cells: alike,
        lsl: against.lsl,
        usl: against.usl,
        tolerance: room,
        multiplier: against.multiplier,
        writer: params.measure.info.writer(describe::decimals(&cells.values)),
        anova: analysis.filter(|_| params.way != Way::Range).map(|of| Anova {
            components: of.all().map(|(source, variance)| Component::new(source, variance, of.total(), against, room)).to_vec(),
            ndc: ndc(of.part.sqrt(), of.gauge().sqrt()),
            ci95,
            with_interaction: tables.with.as_ref().map(|lines| lines.to_vec()),
            without_interaction: tables.without.to_vec(),
            p_interaction: of.p_interaction,
            pooled: of.pooled,
            set_to_zero: of.set_to_zero,
        }),
        range: by_range.filter(|_| params.way != Way::Anova),
    };
    Ok(Answer {
        odd: odd(&cells, &rising, repeat),
        same_order: same_order(&cells),
        repeats,
        ids: cells.rows.iter().map(|&row| params.frame.row_id(row)).collect(),
        measure: params.measure.name.clone(),
        part: params.part.name.clone(),
        operator: params.operator.name.clone(),
        numbers,
        cells,
    })
}

/// The parts, lowest mean first.
fn parts(cells: &Cells, order: &[usize]) -> Vec<Part> {
    let many = cells.values.len() > DRAWN_MOST;
    let readings = |cell: &[f64]| drawn(cell, mean(cell), many);
    let one = |&part: &usize| Part {
        label: cells.parts[part].clone(),
        mean: mean(cells.of_part(part)),
        readings: (0..cells.operators.len()).map(|operator| readings(cells.cell(part, operator))).collect(),
    };
    order.iter().map(one).collect()
}

/// The readings of parts in some order, each by its place in it, as they were measured; none when they are very many.
fn in_order(cells: &Cells, order: &[usize]) -> Vec<usize> {
    if cells.values.len() > DRAWN_MOST {
        return Vec::new();
    }
    let o = cells.operators.len();
    let of_part = |&part: &usize| cells.start(part * o)..cells.start(part * o) + cells.of_part(part).len();
    let rows: Vec<usize> = order.iter().flat_map(of_part).map(|reading| cells.rows[reading]).collect();
    let mut places: Vec<usize> = (0..rows.len()).collect();
    places.sort_by_key(|&place| rows[place]);
    places
}

/// The reading farthest from the mean of its cell, if chance hardly brings one so far among so many: |e| over s √(1 − 1/r)
/// against Bonferroni's t. In a cell of two both are equally far, so neither is told.
fn odd(cells: &Cells, rising: &[usize], repeat: f64) -> Option<Odd> {
    let n = cells.values.len() as f64;
    let df = n - (0..cells.len()).filter(|cell| !cells.nth(*cell).is_empty()).count() as f64;
    if repeat <= 0.0 {
        return None;
    }
    let far = |cell: usize| {
        let readings = cells.nth(cell);
        let own = mean(readings);
        let scale = (repeat * (1.0 - 1.0 / readings.len() as f64)).sqrt();
        let scaled = move |(place, value): (usize, &f64)| (cells.start(cell) + place, value - own, (value - own).abs() / scale);
        readings.iter().enumerate().map(scaled)
    };
    let whole = (0..cells.len()).filter(|cell| cells.nth(*cell).len() > 2);
    let (reading, off, scaled) = whole.flat_map(far).max_by(|a, b| a.2.total_cmp(&b.2))?;
    let (part, _) = cells.whose(reading);
    let before: usize = rising.iter().take_while(|&&other| other != part).map(|&other| cells.of_part(other).len()).sum();
    let drawn = before + reading - cells.start(part * cells.operators.len());
    (scaled > t_two_sided(ODD_READING.rate / n, df)).then_some(Odd { reading, drawn, off })
}

/// Whether each operator took the parts in the same order each time, which a random order hardly does.
fn same_order(cells: &Cells) -> bool {
    let Some(trials) = cells.trials() else { return false };
    let order = |operator: usize, trial: usize| {
        let mut parts: Vec<usize> = (0..cells.parts.len()).collect();
        parts.sort_by_key(|&part| cells.rows[cells.start(part * cells.operators.len() + operator) + trial]);
        parts
    };
    let first = order(0, 0);
    cells.parts.len() > 3 && (0..cells.operators.len()).all(|operator| (0..trials).all(|trial| order(operator, trial) == first))
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
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

    fn gauge(&self) -> Option<GaugeFinding> {
        let of = &self.numbers;
        let gauge = of.spreads.iter().find(|spread| spread.source == "gauge").map(|spread| spread.wide / of.multiplier);
        Some(GaugeFinding { sd: gauge.filter(|sd| *sd > 0.0), share: of.share, waiting: of.asked - of.n })
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
