//! Components of variance from a variance analysis, and their intervals.

use super::anova::Tables;
use super::cells::Cells;
use acorn_maths::mean_squares::{drawn, ends};
use acorn_maths::tails::chi_square_upper;
use acorn_study::gauge::analysis::Line;

/// Components of variance, none below 0.
pub struct Variances {
    pub repeat: f64,
    pub operator: f64,
    /// Operators who read some parts differently.
    pub both: f64,
    pub part: f64,
    /// The chance of so large an interaction.
    pub p_interaction: Option<f64>,
    /// Whether interaction and repeatability are taken together.
    pub pooled: bool,
    /// What came out below 0 and was set to 0.
    pub set_to_zero: Vec<&'static str>,
}

impl Variances {
    /// From the tables of a study; the interaction is pooled above `alpha_pool`.
    pub fn of(tables: &Tables, cells: &Cells, alpha_pool: f64) -> Variances {
        let p_interaction = tables.with.as_ref().and_then(|lines| lines[2].p);
        // All readings of a cell alike leave nothing to test the interaction against: it is all there is.
        let only_interaction = tables.with.as_ref().is_some_and(|lines| lines[3].ss == 0.0 && lines[2].ss > 0.0);
        let pooled = !only_interaction && p_interaction.is_none_or(|p| p > alpha_pool);
        let [repeat, operator, both, part] = match &tables.unbalanced {
            Some(sums) => sums.components(!pooled),
            None => from_squares(squares(tables, pooled), sizes(cells)),
        };
        let raw = [("operator", operator), ("operator-part", both), ("part", part)];
        let zero = |variance: f64| if tables.unbalanced.is_some() { variance == 0.0 } else { variance < 0.0 };
        let could = |source: &str| match source {
            "operator" => cells.operators.len() > 1,
            "operator-part" => !pooled,
            _ => true,
        };
        let set_to_zero = raw.iter().filter(|(source, variance)| zero(*variance) && could(source)).map(|(source, _)| *source).collect();
        let [operator, both, part] = raw.map(|(_, variance)| variance.max(0.0));
        Variances { repeat, operator, both, part, p_interaction, pooled, set_to_zero }
    }

    /// That of the gauge.
    pub fn gauge(&self) -> f64 {
        self.repeat + self.operator + self.both
    }

    /// That of all.
    pub fn total(&self) -> f64 {
        self.gauge() + self.part
    }

    /// Repeatability, operators with their interaction, gauge, parts.
    pub fn four(&self) -> [f64; 4] {
        [self.repeat, self.operator + self.both, self.gauge(), self.part]
    }

    /// All, in the order of the contract.
    pub fn all(&self) -> [(&'static str, f64); 7] {
        [
            ("total-gauge", self.gauge()),
            ("repeatability", self.repeat),
            ("reproducibility", self.operator + self.both),
            ("operator", self.operator),
            ("operator-part", self.both),
            ("part", self.part),
            ("total", self.total()),
        ]
    }
}

/// Parts, operators and trials of a balanced study.
fn sizes(cells: &Cells) -> [f64; 3] {
    [cells.parts.len() as f64, cells.operators.len() as f64, cells.trials().unwrap_or(0) as f64]
}

/// The lines that components come from: part, operator, interaction, repeatability; the interaction has no df where it is pooled.
fn squares(tables: &Tables, pooled: bool) -> [(f64, f64); 4] {
    let of = |line: &Line| (line.mean_square(), line.df);
    match &tables.with {
        Some([part, operator, both, repeat, _]) if !pooled => [part, operator, both, repeat].map(of),
        _ => {
            let [part, operator, repeat, _] = &tables.without;
            [of(part), of(operator), (of(repeat).0, 0.0), of(repeat)]
        }
    }
}

/// Repeatability, operators, interaction and parts from their mean squares; some may be below 0.
fn from_squares(squares: [(f64, f64); 4], [p, o, r]: [f64; 3]) -> [f64; 4] {
    let [(part, _), (operator, operator_df), (both, _), (repeat, _)] = squares;
    let operator = if operator_df > 0.0 { (operator - both) / (p * r) } else { 0.0 };
    [repeat, operator, (both - repeat) / r, (part - both) / (o * r)]
}

/// 95 % intervals of the variance of the gauge and of its share of everything seen.
#[derive(Clone, Copy)]
pub struct Drawn {
    pub gauge: [f64; 2],
    pub study: [f64; 2],
}

/// By draws of the mean squares; `None` for a study whose cells differ in number.
pub fn drawn_intervals(tables: &Tables, of: &Variances, cells: &Cells) -> Option<Drawn> {
    let [part, operator, both, repeat] = squares(tables, of.pooled);
    let sizes = tables.unbalanced.is_none().then(|| sizes(cells))?;
    let has_operator = operator.1 > 0.0;
    let four = |[part, operator, both, repeat]: [f64; 4]| {
        let drawn = from_squares([(part, 1.0), (operator, f64::from(has_operator)), (both, 1.0), (repeat, 1.0)], sizes);
        drawn.map(|variance| variance.max(0.0))
    };
    let gauge = |of: [f64; 4]| of[..3].iter().sum::<f64>();
    let share = |of: [f64; 4]| {
        let total = gauge(of) + of[3];
        (total > 0.0).then(|| (gauge(of) / total).sqrt())
    };
    let operator = (operator.0, operator.1.max(1.0));
    // What is pooled varies with what it is pooled with.
    if of.pooled {
        let all = drawn([part, operator, repeat]);
        let four = |[part, operator, repeat]: [f64; 3]| four([part, operator, repeat, repeat]);
        return Some(Drawn {
            gauge: ends(&all, |squares| Some(gauge(four(squares))))?,
            study: ends(&all, |squares| share(four(squares)))?,
        });
    }
    let all = drawn([part, operator, both, repeat]);
    Some(Drawn { gauge: ends(&all, |squares| Some(gauge(four(squares))))?, study: ends(&all, |squares| share(four(squares)))? })
}

/// The modified large sample interval of a sum of mean squares (Burdick, Borror and Montgomery 2003); `None` where a component
/// of the gauge was set to 0, with one operator, or for a study whose cells differ in number.
pub fn interval(tables: &Tables, of: &Variances, cells: &Cells) -> Option<[f64; 2]> {
    let cut = of.set_to_zero.iter().any(|source| *source != "part");
    if cut || of.gauge() <= 0.0 || cells.operators.len() < 2 || tables.unbalanced.is_some() {
        return None;
    }
    let [p, _, r] = sizes(cells);
    let [_, operator, both, repeat] = squares(tables, of.pooled);
    let terms = match of.pooled {
        false => vec![(1.0 / (p * r), operator), ((p - 1.0) / (p * r), both), (1.0 - 1.0 / r, repeat)],
        true => vec![(1.0 / (p * r), operator), (1.0 - 1.0 / (p * r), repeat)],
    };
    let middle: f64 = terms.iter().map(|(weight, (square, _))| weight * square).sum();
    let reach =
        |far: &dyn Fn(f64) -> f64| terms.iter().map(|(weight, (square, df))| (far(*df) * weight * square).powi(2)).sum::<f64>().sqrt();
    let low = reach(&|df| 1.0 - df / chi_square_upper(0.025, df));
    let high = reach(&|df| df / chi_square_upper(0.975, df) - 1.0);
    let ends = [(middle - low).max(0.0), middle + high];
    ends.iter().all(|end| end.is_finite()).then_some(ends)
}
