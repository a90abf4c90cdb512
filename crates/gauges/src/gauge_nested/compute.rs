//! The nested variance analysis and what follows from it.
//!
//! SSₒ = p r Σ(x̄ₒ − x̄)², SSₚ = r Σ(x̄ₚ − x̄ₒ)², SSₑ = Σ(x − x̄ₚ)².

use super::cells::Cells;
use super::numbers::{NestedAnova, Numbers};
use acorn_maths::describe::{self, mean};
use acorn_maths::mean_squares::generalised;
use acorn_maths::words::grouped;
use acorn_study::gauge::against::{Against, Basis};
use acorn_study::gauge::analysis::{self, Line};
use acorn_study::gauge::component::{self, Component, ndc, spreads};
use acorn_study::gauge::operators::{self, Judged, Reader};
use acorn_study::gauge::part::{DRAWN_MOST, Part, drawn};
use acorn_study::reading::bad;
use acorn_study::{Brief, Cancel, GaugeFinding, StoredAnswer, StudyError, Table, ToNumbers, ValidatedSpec, View};

/// A finished study.
pub struct Answer {
    pub(super) numbers: Numbers,
    pub(super) cells: Cells,
    ids: Vec<i64>,
    /// What was read, for sentences.
    pub(super) measure: String,
    pub(super) operator: String,
}

/// Repeatability, operators and parts from the mean squares of operator, part and repeatability; some may be below 0.
fn variances([operator, part, repeat]: [f64; 3], several: bool, each: f64, trials: f64) -> [f64; 3] {
    [repeat, if several { (operator - part) / (each * trials) } else { 0.0 }, (part - repeat) / trials]
}

/// Answers a statement.
///
/// # Errors
/// What [`Cells::of`] refuses; [`StudyError::BadOption`] with one reading a part; [`StudyError::Stopped`].
pub fn answer(asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Answer, StudyError> {
    let (measure, part, operator) = (asked.needed("measure")?, asked.needed("part")?, asked.needed("operator")?);
    if part.name == operator.name {
        return Err(bad("operator", "parts and operators are the same column; choose who read them"));
    }
    let against = Against::read(asked, measure)?;
    let cells = Cells::of(asked.frame(), measure, part, operator)?;
    cancel.check()?;
    if cells.trials < 2 {
        return Err(bad("measure", "each part has one reading, so repeating cannot be told from parts; read two like pieces of each"));
    }
    let (o, p, r) = (cells.operators.len() as f64, cells.each as f64, cells.trials as f64);
    let grand = mean(&cells.values);
    let of_part: Vec<f64> = (0..cells.parts.len()).map(|part| mean(cells.part(part))).collect();
    let of_operator: Vec<f64> = (0..cells.operators.len()).map(|operator| mean(cells.operator(operator))).collect();
    let square = |value: f64| value * value;
    let within = |part: usize| cells.part(part).iter().map(|value| square(value - of_part[part])).sum::<f64>();
    let between = of_part.iter().enumerate().map(|(part, own)| square(own - of_operator[part / cells.each])).sum::<f64>();
    let operator_line = Line::new("operator", o - 1.0, p * r * of_operator.iter().map(|own| square(own - grand)).sum::<f64>());
    let part_line = Line::new("part", o * (p - 1.0), r * between);
    let repeat_line = Line::new("repeatability", o * p * (r - 1.0), (0..cells.parts.len()).map(within).sum());
    let lines = [operator_line, part_line, repeat_line];
    let total_line = Line::total(&lines);
    let squares = [0, 1, 2].map(|place: usize| lines[place].mean_square());
    let dfs = [0, 1, 2].map(|place: usize| lines[place].df);
    let several = o > 1.0;
    let raw = variances(squares, several, p, r);
    let set_to_zero: Vec<&'static str> =
        [("reproducibility", raw[1]), ("part", raw[2])].iter().filter(|(_, variance)| *variance < 0.0).map(|(source, _)| *source).collect();
    let [repeat, operators_variance, part_variance] = raw.map(|variance| variance.max(0.0));
    let gauge = repeat + operators_variance;
    let total = gauge + part_variance;
    let room = against.room(grand);
    let share = against.share(room, gauge, total);
    let with_df = [0, 1, 2].map(|place: usize| (squares[place], dfs[place].max(1.0)));
    let share_ci95 = share.filter(|share| *share > 0.0).and_then(|_| {
        generalised(with_df, |squares| {
            let [repeat, operators, part] = variances(squares, several, p, r).map(|variance| variance.max(0.0));
            against.share(room, repeat + operators, repeat + operators + part)
        })
    });
    let all = [
        ("total-gauge", gauge),
        ("repeatability", repeat),
        ("reproducibility", operators_variance),
        ("part", part_variance),
        ("total", total),
    ];
    let reader = |operator: usize| {
        let parts = operator * cells.each..(operator + 1) * cells.each;
        let range = |part: usize| describe::extent(cells.part(part)).map_or(0.0, |[low, high]| high - low);
        Reader {
            label: cells.operators[operator].clone(),
            mean: of_operator[operator],
            n: (cells.each * cells.trials) as f64,
            squares: parts.clone().map(within).sum(),
            df: p * (r - 1.0),
            mean_range: Some(parts.map(range).sum::<f64>() / p),
        }
    };
    let decision = Judged::of(
        (0..cells.operators.len()).map(reader).collect(),
        Some((squares[1], dfs[1])),
        (0..cells.parts.len()).map(|part| cells.part(part)),
    );
    let [operator_line, part_line, repeat_line] = lines;
    let table = vec![operator_line.tested(&part_line), part_line.tested(&repeat_line), repeat_line, total_line];
    let many = cells.values.len() > DRAWN_MOST;
    let mut order: Vec<usize> = (0..cells.parts.len()).collect();
    order.sort_by(|&a, &b| (a / cells.each).cmp(&(b / cells.each)).then(of_part[a].total_cmp(&of_part[b])));
    let drawn_part = |part: usize| {
        let mut readings = vec![Vec::new(); cells.operators.len()];
        readings[part / cells.each] = drawn(cells.part(part), of_part[part], many);
        Part { label: cells.parts[part].clone(), mean: of_part[part], readings }
    };
    let numbers = Numbers {
        n: cells.values.len(),
        missing: cells.missing,
        unread: cells.unread.clone(),
        trials: cells.trials,
        mean: grand,
        basis: against.basis(room),
        share,
        share_ci95,
        ndc: ndc(part_variance.sqrt(), gauge.sqrt()),
        basis_wide: against.wide(room, total),
        spreads: spreads([repeat, operators_variance, gauge, part_variance], &against, room),
        parts: order.into_iter().map(drawn_part).collect(),
        operators: decision.operators,
        bias_limits: decision.bias_limits,
        sd_limits: decision.sd_limits,
        lsl: against.lsl,
        usl: against.usl,
        tolerance: room,
        multiplier: against.multiplier,
        writer: measure.info.writer(describe::decimals(&cells.values)),
        anova: NestedAnova {
            table,
            components: all.map(|(source, variance)| Component::new(source, variance, total, &against, room)).to_vec(),
            set_to_zero,
            ndc: ndc(part_variance.sqrt(), gauge.sqrt()),
        },
    };
    let ids = cells.rows.iter().map(|&row| asked.frame().row_id(row)).collect();
    Ok(Answer { numbers, cells, ids, measure: measure.name.clone(), operator: operator.name.clone() })
}

impl Answer {
    /// "the tolerance".
    pub(super) fn basis(&self) -> Basis {
        self.numbers.basis
    }
}

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        3 * size_of_val(&self.cells.values[..]) + size_of_val(&self.ids[..])
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let gauge = of.anova.components.first().map(|gauge| of.writer.computed(gauge.sd));
        let ndc = of.ndc.map(|ndc| grouped(ndc as usize));
        let all = [("gauge sd", gauge), ("ndc", ndc), ("values", Some(grouped(of.n)))];
        all.into_iter().filter_map(|(term, words)| words.map(|words| Brief { term, words })).collect()
    }

    fn gauge(&self) -> Option<GaugeFinding> {
        let sd = self.numbers.anova.components.first().map(|gauge| gauge.sd).filter(|sd| *sd > 0.0);
        Some(GaugeFinding { sd, share: self.numbers.share, waiting: self.numbers.missing })
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        vec![
            component::table(&of.anova.components, &of.writer),
            analysis::table("analysis", "Variance analysis", &of.anova.table),
            operators::table(&of.operators, &of.writer, "consistency-limits"),
        ]
    }

    fn points(&self, view: &View) -> Table {
        let cells = &self.cells;
        let all = || view.stretch(cells.values.len()).0;
        let part = |reading: usize| reading / cells.trials;
        Table::new("points", "Readings")
            .texts("operator", all().map(|reading| Some(cells.operators[part(reading) / cells.each].clone())))
            .texts("part", all().map(|reading| Some(cells.parts[part(reading)].clone())))
            .numbers("reading", Some(&self.numbers.writer), None, all().map(|reading| Some(cells.values[reading])))
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        self.ids.get(first..=last.min(self.ids.len().saturating_sub(1))).unwrap_or_default().to_vec()
    }
}
